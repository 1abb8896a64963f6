import type { ReactElement } from "react";
import type { Line } from "../../api/lines";

/** A hard line's bending sheet: push, roll, bend. */
export function BendingSheet({ line }: { line: Line }): ReactElement {
  const { sheet } = line;
  return (
    <section aria-label="Bending sheet" className="border-t border-ink px-4 py-2">
      <h3 className="font-figure text-[16px] font-semibold">Bending sheet</h3>
      {!sheet && <p className="text-[14px]">{line.no_sheet}</p>}
      {sheet && (
        <>
          <p className="text-[14px]">
            Cut {sheet.cut_mm.toFixed(0)} mm; take {sheet.stock_mm.toFixed(0)} mm of tube, a spare
            for a bend gone wrong in it.
          </p>
          <table className="w-full text-right text-[14px]">
            <thead>
              <tr className="border-b border-ink text-[13px] text-ink-2">
                <th scope="col" className="text-left font-normal">
                  bend
                </th>
                <th scope="col" className="font-normal">
                  mark, mm
                </th>
                <th scope="col" className="font-normal">
                  roll
                </th>
                <th scope="col" className="font-normal">
                  bend
                </th>
                <th scope="col" className="font-normal">
                  pull to
                </th>
                <th scope="col" className="font-normal">
                  radius
                </th>
              </tr>
            </thead>
            <tbody className="font-figure">
              {sheet.pulls.map((pull, at) => (
                <tr key={at} className="border-b border-hair">
                  <th scope="row" className="text-left font-normal">
                    {at + 1}
                  </th>
                  <td>{pull.mark_mm.toFixed(1)}</td>
                  <td>{pull.roll_deg.toFixed(0)}°</td>
                  <td>{pull.bend_deg.toFixed(1)}°</td>
                  <td>{pull.pulled_deg.toFixed(1)}°</td>
                  <td>{pull.radius_mm.toFixed(0)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="pt-1 text-[13px] text-ink-2">
            Marks from the tube&apos;s first end; roll with the clock, seen from behind. Last
            straight {sheet.last_mm.toFixed(1)} mm. Nut, then sleeve, then flare: 37°, not 45°. Sand
            in a thin tube is washed out to the last grain, and signed off.
          </p>
        </>
      )}
    </section>
  );
}
