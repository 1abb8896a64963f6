const MOST = 16; // letters of a row in a column

/** Words in rows of a column, two at the most. */
export function rowsOf(words: string): string[] {
  const rows: string[] = [];
  for (const word of words.split(" ")) {
    const last = rows.at(-1);
    if (last !== undefined && `${last} ${word}`.length <= MOST)
      rows[rows.length - 1] = `${last} ${word}`;
    else rows.push(word);
  }
  const [first = "", ...rest] = rows;
  return rest.length === 0 ? [first] : [first, rest.join(" ")];
}
