import type { Point, Ring } from "./geometry";

/** The part of a ring on the side of a line where `nx x + ny y >= from`. */
export function within(ring: Ring, nx: number, ny: number, from: number): Ring {
  const side = ([x, y]: Point): number => nx * x + ny * y - from;
  const found: Point[] = [];
  ring.forEach((here, at) => {
    const next = ring[(at + 1) % ring.length] ?? here;
    const [one, other] = [side(here), side(next)];
    if (one >= 0) found.push(here);
    if (one < 0 !== other < 0) {
      const share = one / (one - other);
      found.push([here[0] + share * (next[0] - here[0]), here[1] + share * (next[1] - here[1])]);
    }
  });
  return found;
}

const areaOf = (ring: Ring): number =>
  Math.abs(
    ring.reduce((sum, [x, y], at) => {
      const [nextX, nextY] = ring[(at + 1) % ring.length] ?? [x, y];
      return sum + x * nextY - nextX * y;
    }, 0) / 2,
  );

/**
 * What of an upright box is below a surface that leans: `share` of it is full, and the surface
 * rises by `slope` across it. In the box's own units, up is minus y.
 */
export function filled(width: number, height: number, share: number, slope: number): Ring {
  const box: Ring = [
    [0, 0],
    [width, 0],
    [width, -height],
    [0, -height],
  ];
  const [nx, ny] = [slope, 1];
  let [low, high] = [-height - Math.abs(slope) * width, Math.abs(slope) * width];
  const whole = width * height;
  for (let turn = 0; turn < 40; turn++) {
    const middle = (low + high) / 2;
    if (areaOf(within(box, nx, ny, middle)) > share * whole) low = middle;
    else high = middle;
  }
  return within(box, nx, ny, (low + high) / 2);
}
