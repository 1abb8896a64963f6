import type { ReactElement } from "react";
import type { Sized } from "../../api/dry";
import { Mark } from "../../parts/Mark";
import { useSettings } from "../../parts/settings";
import { shownAs, type System, type Units } from "../../parts/units";
import { InUnits } from "../../parts/InUnits";

/** A size as it is shown: in the units of its field, or in the unit that it names. */
export function sizeAs(
  units: Units,
  system: System,
  field: string,
  value: number,
  extraDecimals = 0,
): { figure: string; unit: string } {
  const shown = shownAs(units, field === "m/s" ? "x_m_s" : field, system, value, extraDecimals);
  if (shown && field === "x_bar") return { ...shown, figure: value.toFixed(2) };
  if (shown) return shown;
  if (field === "x_rpm") return { figure: value.toFixed(0), unit: "rpm" };
  return { figure: value.toFixed(1), unit: field };
}

/** A decimal more where what is found short would read like what is wanted. */
export function decimalsMore(units: Units, system: System, size: Sized): number {
  if (size.state === "good" || size.wanted === null || size.found === null) return 0;
  const [wanted, found] = [size.wanted, size.found].map(
    (value) => sizeAs(units, system, size.field, value).figure,
  );
  return wanted === found ? 1 : 0;
}

export function wantedWords(units: Units, system: System, size: Sized): string {
  if (size.wanted === null) return "";
  const more = decimalsMore(units, system, size);
  const first = sizeAs(units, system, size.field, size.wanted, more).figure;
  if (size.wanted_most === null) return first;
  return `${first} to ${sizeAs(units, system, size.field, size.wanted_most).figure}`;
}

/** Each size, wanted against found, with what would mend it and who says so. */
export function Sizes({ sizes }: { sizes: readonly Sized[] }): ReactElement {
  const { system, units } = useSettings();
  return (
    <section aria-label="Sizing" className="px-4 py-3">
      <h2 className="font-figure text-[18px] font-semibold">Sizing, wanted and found</h2>
      <table className="mt-1 w-full text-[14px]">
        <thead>
          <tr className="border-b border-ink text-[13px] text-ink-2">
            <td />
            <th scope="col" className="text-right font-normal">
              want
            </th>
            <th scope="col" className="text-right font-normal">
              found
            </th>
          </tr>
        </thead>
        <tbody>
          {sizes.map((size) => {
            const more = decimalsMore(units, system, size);
            const found =
              size.found === null ? null : sizeAs(units, system, size.field, size.found, more);
            return (
              <tr
                key={size.key}
                title={size.source}
                className="border-b border-hair align-top"
                data-size={size.key}
              >
                <th scope="row" className="py-1 pr-2 text-left font-normal">
                  <span className="flex items-start gap-2">
                    <Mark state={size.state} size={15} />
                    <span>
                      <span className="font-semibold">{size.name}</span>
                      <span className="block text-[13px] text-ink-2">
                        <InUnits words={size.at} />
                      </span>
                      {size.why && (
                        <span className="block text-[13px]">
                          <InUnits words={size.why} />
                        </span>
                      )}
                      <span className="block text-[12px] text-ink-2">
                        <InUnits words={size.source.split(":")[0] ?? ""} />
                      </span>
                    </span>
                  </span>
                </th>
                <td className="py-1 text-right font-figure whitespace-nowrap text-ink-2">
                  {wantedWords(units, system, size)}
                </td>
                <td className="py-1 pl-2 text-right font-figure font-semibold whitespace-nowrap">
                  {found ? `${found.figure} ${found.unit}` : "not known"}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}
