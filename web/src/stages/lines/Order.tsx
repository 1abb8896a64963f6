import type { ReactElement } from "react";
import {
  orderFile,
  useImportCatalogue,
  useSetBender,
  useTick,
  type Bender,
  type LinesStage,
  type OrderRow,
  type TickState,
} from "../../api/lines";
import { wordsOf } from "../../api/client";
import { useBuildView } from "../../document/BuildContext";
import { EditFigure } from "../../parts/EditFigure";
import { FileButton } from "../../parts/FileButton";
import { HOW_FAR, HowFar } from "../../parts/HowFar";
import { BuyBesides } from "./BuyBesides";
import { OwnParts } from "./OwnParts";
import { beginSentence } from "./sentence";

function Row({
  row,
  stage,
  onTick,
}: {
  row: OrderRow;
  stage: LinesStage;
  onTick: (state: TickState | null) => void;
}): ReactElement {
  const tick = stage.ticks.find(({ part }) => part === row.part);
  const more = tick ? row.count - tick.count : 0;
  return (
    <tr className="border-b border-hair align-top" data-order={row.part}>
      <th scope="row" className="py-1 text-left font-normal">
        {row.words}
        <span className="block text-[13px] text-ink-2">
          {row.lines.length > 0 ? `line ${row.lines.join(", ")}` : row.why.join(", ")}
          {row.is_rough ? "; length guessed" : ""}
        </span>
      </th>
      <td className="py-1 pl-2 text-right font-figure whitespace-nowrap">
        {row.count.toLocaleString("en")} {row.per === "metre" ? "m" : ""}
      </td>
      <td className="py-1 pl-2 text-right font-figure">
        {Math.round(row.price)}
        {row.own_price ? "" : "*"}
      </td>
      <td className="py-1 pl-2 text-right font-figure">{row.lead_days}</td>
      <td className="py-1 pl-2">
        <HowFar words={row.words} state={tick?.state ?? null} onTick={onTick} />
        {tick && more > 1e-6 && (
          <span className="block text-[13px] text-bad">
            {tick.count} {HOW_FAR[tick.state]}, {Math.round(more * 10) / 10} more
          </span>
        )}
      </td>
    </tr>
  );
}

/** What was ticked and has no use any more. */
function Spare({ stage }: { stage: LinesStage }): ReactElement | null {
  const spare = stage.ticks.filter(({ wanted }) => wanted === 0);
  if (spare.length === 0) return null;
  return (
    <p className="px-4 pt-2 text-[14px]">
      Not wanted any more, and ticked:{" "}
      {spare.map(({ words, count, state }) => `${count} ${words} (${state})`).join(", ")}.
    </p>
  );
}

function BenderNumbers({ stage }: { stage: LinesStage }): ReactElement {
  const keep = useSetBender();
  const { own, ...bender } = stage.bender;
  const figure = (label: string, field: keyof Bender): ReactElement => (
    <EditFigure
      label={label}
      field={field}
      value={bender[field]}
      onType={(typed) =>
        // a bare figure: the workshop's own measure, in millimetres or per cent
        keep.mutateAsync({ ...bender, [field]: Number(typed.replace(",", ".")) })
      }
    />
  );
  return (
    <details className="border-t border-hair px-4 py-2">
      <summary className="text-[14px]">
        The bender{own ? "" : ": guesses until a trial bend is measured"}
      </summary>
      {figure("Springs back, of the angle", "springback_pct")}
      {figure("Stretch in a quarter turn", "stretch_mm")}
      {figure("A flare takes", "flare_mm")}
      {figure("Spare for a bend gone wrong", "spare_mm")}
    </details>
  );
}

function Bars({ stage }: { stage: LinesStage }): ReactElement | null {
  const { bars, bar_mm: bar } = stage.lines;
  if (bars.length === 0) return null;
  return (
    <section aria-label="Bars of tube" className="border-t border-hair px-4 py-2 text-[14px]">
      <h3 className="font-figure font-semibold">Out of bars of {bar / 1000} m</h3>
      <ul>
        {bars.map((each, at) => (
          <li key={at}>
            size {each.dash}: line {each.lines.join(", ")}; {each.left_mm.toFixed(0)} mm over
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The whole order: parts, how many, what they cost, how far each is. */
export function Order({ stage }: { stage: LinesStage }): ReactElement {
  const { build } = useBuildView();
  const tick = useTick(build);
  const bring = useImportCatalogue();
  const { order, total, spanners, tools } = stage.lines;
  const fault = tick.error ?? bring.error;
  return (
    <section aria-label="The order">
      <div className="px-4 pt-3">
        <h2 className="font-figure text-[18px] font-semibold">The order, all lines</h2>
        <p className="text-[14px]" data-begin>
          {beginSentence(stage)}
        </p>
        {!stage.compared && order.length > 0 && (
          <p className="text-[13px] text-ink-2">
            All that the circuit has is listed. Say which state the car is in (revisions), and what
            it has is left out.
          </p>
        )}
      </div>
      {fault && (
        <p role="alert" className="px-4 py-1 text-[14px] text-bad">
          {wordsOf(fault)}
        </p>
      )}
      {order.length > 0 && (
        <div className="overflow-x-auto px-4" tabIndex={0} aria-label="Parts of the order">
          <table className="w-full text-[14px]">
            <thead>
              <tr className="border-b border-ink text-right text-[13px] text-ink-2 [&>th]:pl-2">
                <th scope="col" className="!pl-0 text-left font-normal">
                  part
                </th>
                <th scope="col" className="font-normal">
                  count
                </th>
                <th scope="col" className="font-normal">
                  price
                </th>
                <th scope="col" className="font-normal">
                  days
                </th>
                <th scope="col" className="pl-2 text-left font-normal">
                  how far
                </th>
              </tr>
            </thead>
            <tbody>
              {order.map((row) => (
                <Row
                  key={row.part}
                  row={row}
                  stage={stage}
                  onTick={(state) => tick.mutate({ part: row.part, state })}
                />
              ))}
              <tr className="font-semibold">
                <th scope="row" className="py-1 text-left">
                  Total
                </th>
                <td />
                <td className="text-right font-figure" data-total>
                  {Math.round(total)}
                </td>
                <td colSpan={2} />
              </tr>
            </tbody>
          </table>
        </div>
      )}
      <Spare stage={stage} />
      <p className="px-4 pt-2 text-[14px]">
        {spanners.length > 0 && <>Spanners: {spanners.join(", ")}. </>}
        {tools.length > 0 && <>Tools: {tools.join("; ")}. </>}
        <span className="text-[13px] text-ink-2">
          * invented prices and lead times: type the shop&apos;s own into the catalogue.
        </span>
      </p>
      <div className="flex flex-wrap gap-x-4 gap-y-1 px-4 py-2 text-[14px]">
        <a className="underline" href={orderFile(build, "csv")} download>
          Order as CSV
        </a>
        <a className="underline" href={orderFile(build, "spreadsheet")} download>
          as a spreadsheet
        </a>
        <a className="underline" href={orderFile(build, "page")} download>
          to print, PDF
        </a>
        <a className="underline" href="/api/shop/catalogue" download>
          Catalogue, CSV
        </a>
        <FileButton
          accept=".csv,text/csv"
          label="A catalogue as CSV"
          disabled={bring.isPending}
          onFile={(file) => bring.mutate(file)}
        >
          Read a catalogue
        </FileButton>
      </div>
      <Bars stage={stage} />
      <BuyBesides stage={stage} />
      <OwnParts />
      <BenderNumbers stage={stage} />
    </section>
  );
}
