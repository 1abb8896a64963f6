import type { ReactElement } from "react";
import type { Zone } from "../../document/edges";
import { closed, fromAbove, NoseUp } from "./fromAbove";

type Surface = Extract<Zone["floor"], { kind: "surface" }>;

/** Zones of a scan from above, the nose up: the deeper, the darker. */
export function SurfacePlan({
  zones,
  width,
}: {
  zones: readonly Zone[];
  width: number;
}): ReactElement {
  const drawn = fromAbove(
    zones.flatMap((zone) => zone.outline_mm),
    width,
  );
  const floors = zones.flatMap(({ floor }) => (floor.kind === "surface" ? [floor] : []));
  const most = Math.max(1, ...floors.flatMap(({ places_mm }) => places_mm.map(([, , z]) => z)));
  const shade = (floor: Surface, row: readonly number[]): string => {
    const depth = row.reduce((sum, each) => sum + (floor.places_mm[each]?.[2] ?? 0), 0) / 3;
    return ((0.75 * depth) / most).toFixed(2);
  };
  return (
    <svg
      width={width}
      height={drawn.height}
      role="img"
      aria-label="The scanned pan from above, the nose up"
      className="block font-figure"
      data-scan={zones.length}
    >
      {floors.map((floor, zone) =>
        floor.triangles.map((row, number) => (
          <path
            key={`${zone}-${number}`}
            d={closed(
              drawn,
              row.map((each) => floor.places_mm[each] ?? []),
            )}
            fill="var(--ink)"
            fillOpacity={shade(floor, row)}
          />
        )),
      )}
      {zones.map((zone, number) => (
        <path
          key={number}
          d={closed(drawn, zone.outline_mm)}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={zone.ceiling_depth_mm == null ? 1.75 : 1}
          strokeDasharray={zone.ceiling_depth_mm == null ? undefined : "5 3"}
        />
      ))}
      <NoseUp width={width} />
    </svg>
  );
}
