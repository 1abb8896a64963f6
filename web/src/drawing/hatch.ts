import { pathOf, type Point, type Ring } from "./geometry";

/**
 * Hatching as lines, not as a pattern fill: browsers that draw in software take a hundred times
 * longer over patterns, and the section must follow the finger.
 *
 * Lines at 45°, rising to the right when `way` is 1 and falling when it is -1, `spacing` px apart
 * along the page's width, inside the rings by the even-odd rule.
 */
export function hatchPath(rings: readonly Ring[], spacing: number, way: 1 | -1): string {
  // on a line of this family u + way v is the same all along
  const across = ([u, v]: Point): number => u + way * v;
  const all = rings.flat().map(across);
  if (all.length === 0) return "";
  const parts: string[] = [];
  for (
    let c = Math.ceil(Math.min(...all) / spacing) * spacing;
    c < Math.max(...all);
    c += spacing
  ) {
    const hits: Point[] = [];
    for (const ring of rings)
      ring.forEach((from, index) => {
        const to = ring[(index + 1) % ring.length] ?? from;
        const [before, after] = [across(from) - c, across(to) - c];
        if (before <= 0 === after <= 0) return;
        const share = before / (before - after);
        hits.push([from[0] + share * (to[0] - from[0]), from[1] + share * (to[1] - from[1])]);
      });
    hits.sort((one, other) => one[0] - other[0]);
    for (let i = 0; i + 1 < hits.length; i += 2) {
      const [from, to] = [hits[i], hits[i + 1]];
      if (from && to) parts.push(pathOf([from, to], false));
    }
  }
  return parts.join("");
}
