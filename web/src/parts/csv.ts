/** A table to read or to save: headings with their units, and rows of figures or words. */
export interface Table {
  title: string;
  headings: readonly string[];
  rows: readonly (readonly (string | number)[])[];
}

/** A cell that no spreadsheet takes for a formula, quoted where it has to be. */
function cell(value: string | number): string {
  if (typeof value === "number") return String(value);
  const safe = /^[=+\-@\t\r]/.test(value) ? `'${value}` : value;
  return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
}

/** The table as CSV (RFC 4180), headings first. */
export const csvOf = ({ headings, rows }: Table): string =>
  [headings, ...rows].map((row) => row.map(cell).join(",")).join("\r\n") + "\r\n";

/** At most `most` of the rows, evenly chosen, first and last among them. */
export function thinned<T>(rows: readonly T[], most: number): readonly T[] {
  if (rows.length <= most) return rows;
  return Array.from(
    { length: most },
    (_, i) => rows[Math.round((i * (rows.length - 1)) / (most - 1))] as T,
  );
}

/** A file name from words. */
export const fileNameOf = (words: string, ending: string): string =>
  `${
    words
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-|-$/g, "") || "bilge"
  }.${ending}`;
