import type { Point, Ring } from "./geometry";

/** Glass pipes as bands along a line: how wide, and which part of the width is what. */

const STEPS = 5; // pieces that a rounded corner is drawn in

/** A line with its corners rounded. */
export function rounded(line: readonly Point[], radius: number): Point[] {
  const found: Point[] = [];
  line.forEach((corner, index) => {
    const [before, after] = [line[index - 1], line[index + 1]];
    if (!before || !after) {
      found.push(corner);
      return;
    }
    const [back, ahead] = [before, after].map(([u, v]) => {
      const long = Math.hypot(u - corner[0], v - corner[1]) || 1;
      const reach = Math.min(radius, long / 2) / long;
      return [corner[0] + (u - corner[0]) * reach, corner[1] + (v - corner[1]) * reach] as const;
    }) as [Point, Point];
    for (let step = 0; step <= STEPS; step += 1) {
      const t = step / STEPS;
      const [p, q, r] = [(1 - t) ** 2, 2 * t * (1 - t), t ** 2];
      found.push([
        p * back[0] + q * corner[0] + r * ahead[0],
        p * back[1] + q * corner[1] + r * ahead[1],
      ]);
    }
  });
  return found;
}

/** A line moved to its left as one goes along it (to the right: negative), corners mitred. */
export function offsetLine(line: readonly Point[], by: number): Point[] {
  const normals = line.slice(1).map(([u, v], index): Point => {
    const [a, b] = line[index] ?? [0, 0];
    const long = Math.hypot(u - a, v - b) || 1;
    // v goes down the page: the left of "right" is up
    return [(v - b) / long, -(u - a) / long];
  });
  return line.map(([u, v], index) => {
    const one = normals[index - 1] ?? normals[index] ?? [0, 0];
    const two = normals[index] ?? one;
    const [a, b] = [one[0] + two[0], one[1] + two[1]];
    const square = Math.max(a * a + b * b, 0.5);
    return [u + (2 * by * a) / square, v + (2 * by * b) / square];
  });
}

/** The ring between two lines beside one, so far to its left each. */
export function bandRing(line: readonly Point[], from: number, to: number): Ring {
  return [...offsetLine(line, from), ...offsetLine(line, to).reverse()];
}

/** Oil and air of a pipe's width: the air on its left or its right. */
export function shares(
  line: readonly Point[],
  width: number,
  gas: number,
  airOn: "left" | "right",
): { oil: Ring | null; air: Ring | null } {
  const half = width / 2;
  const part = Math.min(1, Math.max(0, gas));
  // a hair of air is not seen, and none should look like some
  const thick = part < 0.01 ? 0 : part * width;
  const edge = airOn === "left" ? half - thick : thick - half;
  const [airFrom, oilTo] = airOn === "left" ? [half, -half] : [-half, half];
  return {
    oil: thick < width ? bandRing(line, edge, oilTo) : null,
    air: thick > 0 ? bandRing(line, airFrom, edge) : null,
  };
}
