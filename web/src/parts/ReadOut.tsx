import { DropdownMenu } from "radix-ui";
import { useState, type ReactElement, type RefObject } from "react";
import { csvOf, fileNameOf, thinned, type Table } from "./csv";
import { Dialog } from "./Dialog";
import { pngOf, saveFile, svgFileOf } from "./picture";

const MOST_ROWS = 400;

function TableView({ table, onClose }: { table: Table; onClose: () => void }): ReactElement {
  const rows = thinned(table.rows, MOST_ROWS);
  return (
    <Dialog title={table.title} wide onClose={onClose}>
      <table className="w-full font-figure text-[15px]">
        <thead className="sticky top-0 bg-panel">
          <tr>
            {table.headings.map((heading) => (
              <th key={heading} scope="col" className="border-b border-ink px-3 py-1 text-right">
                {heading}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, index) => (
            <tr key={index}>
              {row.map((value, column) => (
                <td key={column} className="border-b border-hair px-3 text-right">
                  {value}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length < table.rows.length && (
        <p className="px-4 py-2 text-[13px] text-ink-2">
          {rows.length} of {table.rows.length} rows; the CSV file has them all.
        </p>
      )}
    </Dialog>
  );
}

/** Reading a plot or drawing out: as a table, as CSV, as a picture. */
export function ReadOut({
  name,
  table,
  drawing,
  backdrop,
}: {
  name: string;
  table?: () => Table;
  /** The element that holds the drawing as SVG. */
  drawing: RefObject<Element | null>;
  /** A scene on a canvas behind the drawing. */
  backdrop?: () => HTMLCanvasElement | null;
}): ReactElement {
  const [shown, setShown] = useState<Table | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const svg = (): SVGSVGElement => {
    const found = drawing.current?.querySelector(
      "svg[role=img], svg[role=slider], svg[role=group]",
    );
    if (!(found instanceof SVGSVGElement)) throw new Error("There is nothing drawn yet.");
    return found;
  };
  const behind = (): HTMLCanvasElement | null => backdrop?.() ?? null;
  const run = (act: () => void | Promise<void>) => (): void => {
    setFault(null);
    Promise.resolve()
      .then(act)
      .catch((error: unknown) => setFault(error instanceof Error ? error.message : "Not saved."));
  };
  const items: [string, () => void | Promise<void>][] = [];
  if (table) {
    items.push(["Read as a table", () => setShown(table())]);
    items.push([
      "Save as CSV",
      () => saveFile(fileNameOf(name, "csv"), csvOf(table()), "text/csv"),
    ]);
  }
  items.push([
    "Save as PNG",
    async () => saveFile(fileNameOf(name, "png"), await pngOf(svg(), behind())),
  ]);
  items.push([
    "Save as SVG",
    async () =>
      saveFile(fileNameOf(name, "svg"), await svgFileOf(svg(), behind()), "image/svg+xml"),
  ]);
  return (
    <>
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger
          aria-label={`Read or save: ${name}`}
          title="as a table, CSV or picture"
          className="grid h-6 w-7 shrink-0 place-items-center border border-hair text-ink-2"
        >
          <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden="true">
            <path
              d="M7 1v8M3.5 5.8 7 9.3l3.5-3.5M1.5 12.5h11"
              fill="none"
              stroke="currentColor"
              strokeWidth="1.5"
            />
          </svg>
        </DropdownMenu.Trigger>
        <DropdownMenu.Content
          align="end"
          className="z-30 border border-ink bg-panel p-1 text-[14px] text-ink"
        >
          {items.map(([words, act]) => (
            <DropdownMenu.Item
              key={words}
              onSelect={run(act)}
              className="cursor-pointer px-3 py-1 data-[highlighted]:bg-ink data-[highlighted]:text-paper"
            >
              {words}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Root>
      {fault && (
        <span role="alert" className="text-[13px] text-bad">
          {fault}
        </span>
      )}
      {shown && <TableView table={shown} onClose={() => setShown(null)} />}
    </>
  );
}
