import { ShapeUtils, Vector2 } from "three";
import { same } from "./model";
import { areaNormal, cross, dot, minus, type Polygon, type Vector } from "./solid";

/** Triangles of a flat polygon with holes, as coordinates one after another. */
export function triangles(rings: readonly Polygon[]): number[] {
  const [outer, ...holes] = rings;
  if (!outer || outer.length < 3) return [];
  const normal = areaNormal(outer);
  const far = outer.find((point) => !same(point, outer[0] ?? point)) ?? outer[0];
  if (!far || !outer[0]) return [];
  const u = minus(far, outer[0]);
  const v = cross(normal, u);
  const [lu, lv] = [Math.hypot(...u) || 1, Math.hypot(...v) || 1];
  const flat = (point: Vector): Vector2 => new Vector2(dot(point, u) / lu, dot(point, v) / lv);
  const indices = ShapeUtils.triangulateShape(
    outer.map(flat),
    holes.map((hole) => hole.map(flat)),
  );
  const all = [...outer, ...holes.flat()];
  return indices.flatMap((triangle) => triangle.flatMap((index) => [...(all[index] ?? [0, 0, 0])]));
}
