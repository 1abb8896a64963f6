import type { Drawing } from "../drawing/views";
import { cross, dot, type Vector } from "./solid";

const ROUND_POINTS = 32;

/** Rings of the pickup from mouth to where its tube is cut off: a bell on a tube. */
export function pickupRings(drawing: Drawing): Vector[][] {
  const { mouth, skirt_height_mm } = drawing;
  const throat = 0.42;
  const shoulder = mouth.z_mm + mouth.half_length_mm * 1.1;
  const top = Math.max(skirt_height_mm * 0.5, 30);
  const levels: [number, number][] = [
    [1, mouth.z_mm],
    [throat, shoulder],
    [throat, Math.max(top, shoulder + 10)],
  ];
  const outline: [number, number][] = mouth.is_round
    ? Array.from({ length: ROUND_POINTS }, (_, k) => {
        const angle = (2 * Math.PI * k) / ROUND_POINTS;
        return [Math.cos(angle), Math.sin(angle)];
      })
    : [
        [-1, -1],
        [1, -1],
        [1, 1],
        [-1, 1],
      ];
  return levels.map(([share, z]) =>
    outline.map(([u, v]): Vector => [
      mouth.x_mm + u * share * mouth.half_length_mm,
      mouth.y_mm + v * share * mouth.half_width_mm,
      z,
    ]),
  );
}

/** The skin between rings as quadrilaterals. */
export function skinOf(rings: readonly Vector[][]): Vector[][] {
  return rings.slice(1).flatMap((upper, level) => {
    const lower = rings[level] ?? [];
    return lower.map((point, k): Vector[] => {
      const next = (k + 1) % lower.length;
      const [a, b, c] = [lower[next] ?? point, upper[next] ?? point, upper[k] ?? point];
      return [point, a, b, c];
    });
  });
}

/** Lines to draw: the rings, and the outline on both sides as seen by the viewer. */
export function pickupLines(rings: readonly Vector[][], toViewer: Vector): [Vector, Vector][] {
  const aside = cross(toViewer, [0, 0, 1]);
  const round = rings.flatMap((ring) =>
    ring.map((point, k): [Vector, Vector] => [point, ring[(k + 1) % ring.length] ?? point]),
  );
  const first = rings[0] ?? [];
  const along = first.map((point) => dot(point, aside));
  const ends = [along.indexOf(Math.max(...along)), along.indexOf(Math.min(...along))];
  const outline = ends.flatMap((k) =>
    rings.slice(1).flatMap((ring, level): [Vector, Vector][] => {
      const [from, to] = [rings[level]?.[k], ring[k]];
      return from && to ? [[from, to]] : [];
    }),
  );
  return [...round, ...outline];
}
