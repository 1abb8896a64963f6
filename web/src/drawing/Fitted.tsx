import { memo, type ReactElement } from "react";
import type { Schemas } from "../api/client";
import type { BuildDocument } from "../api/queries";
import { useSettings } from "../parts/settings";
import { lengthAs } from "../parts/units";
import { boxOf, pathOf, type Point } from "./geometry";
import { Words } from "./Words";
import { toPage, type Drawing, type Placed, type ViewName } from "./views";

type Clearance = Schemas["ClearanceOut"];
type Place3 = readonly [number, number, number];

const AXES: Record<ViewName, readonly [0 | 1 | 2, 0 | 1 | 2]> = {
  plan: [0, 1],
  side: [0, 2],
  front: [1, 2],
};
/** How far beyond the pan its surroundings are drawn [mm]. */
const BEYOND = 60;
const THIN = "12 3 2 3";

const seenIn = (view: ViewName, place: Place3): Point => [
  place[AXES[view][0]],
  place[AXES[view][1]],
];

/** The view in which two places lie furthest apart: where a gap is best seen. */
export function bestView(at: Place3, to: Place3): ViewName {
  const apart = (view: ViewName): number => {
    const [one, other] = [seenIn(view, at), seenIn(view, to)];
    return Math.hypot(one[0] - other[0], one[1] - other[1]);
  };
  return (["front", "side", "plan"] as const).reduce((best, view) =>
    apart(view) > apart(best) + 0.05 ? view : best,
  );
}

function Gap({
  clearance,
  place,
}: {
  clearance: Clearance;
  place: (point: Place3) => Point;
}): ReactElement {
  const { system, units } = useSettings();
  const [a, b] = [place(clearance.at_mm), place(clearance.to_mm)];
  const short = clearance.gap_mm < clearance.wanted_mm;
  const ink = short ? "var(--bad)" : "var(--ink)";
  const { figure, unit } = lengthAs(units, system, clearance.gap_mm);
  return (
    <g stroke={ink} fill={ink} data-gap={clearance.name}>
      <path d={pathOf([a, b], false)} strokeWidth="1.5" />
      <circle cx={a[0]} cy={a[1]} r="2" />
      <circle cx={b[0]} cy={b[1]} r="2" />
      <Words
        rank="gap"
        anchor={[(a[0] + b[0]) / 2, (a[1] + b[1]) / 2]}
        x={(a[0] + b[0]) / 2 + 5}
        y={(a[1] + b[1]) / 2 - 5}
        fontSize="13"
        fontWeight="700"
        stroke="var(--paper)"
        strokeWidth="3"
        paintOrder="stroke"
      >
        {short ? "! " : ""}
        {figure} {unit}
      </Words>
    </g>
  );
}

/** Crank: its centreline and what it sweeps. */
function Crank({
  crank,
  view,
  scale,
  place,
}: {
  crank: Schemas["CrankOut"];
  view: ViewName;
  scale: number;
  place: (point: Place3) => Point;
}): ReactElement {
  const { height_mm: z, swept_radius_mm: r, from_x_mm: from, to_x_mm: to } = crank;
  const line = { stroke: "var(--line)", fill: "none", strokeDasharray: THIN };
  if (view === "front") {
    const [x, y] = place([0, 0, z]);
    return (
      <g {...line} data-crank>
        <circle cx={x} cy={y} r={r * scale} />
        <path d={`M${x - 7} ${y}h14M${x} ${y - 7}v14`} strokeDasharray="none" />
      </g>
    );
  }
  // from the side its lower half: what is over the centreline would stand in the view above
  const corners: Place3[] =
    view === "side"
      ? [
          [from, 0, z],
          [from, 0, z - r],
          [to, 0, z - r],
          [to, 0, z],
        ]
      : [
          [from, -r, z],
          [to, -r, z],
          [to, r, z],
          [from, r, z],
        ];
  return (
    <g {...line} data-crank>
      <path d={pathOf(corners.map(place), view !== "side")} />
      <path d={pathOf([place([from - 15, 0, z]), place([to + 15, 0, z])], false)} />
    </g>
  );
}

/**
 * What is fitted to the pan and what is round it, over a view: flange and holes, bosses, scraper,
 * crank, keep-outs with the smallest gaps.
 */
export const Fitted = memo(function Fitted({
  drawing,
  document,
  clearances,
  at,
}: {
  drawing: Drawing;
  document: BuildDocument;
  /** Null where what is round the pan is not to be drawn. */
  clearances: readonly Clearance[] | null;
  at: Placed;
}): ReactElement {
  const { view } = at;
  const gaps = clearances ?? [];
  const flat = (point: Point): Point => {
    const [u, v] = toPage[view](drawing, point);
    return [at.x + u * at.scale, at.y + v * at.scale];
  };
  const place = (point: Place3): Point => flat(seenIn(view, point));
  const { pan } = document;
  const room = {
    x: at.x + (at.box.left - BEYOND) * at.scale,
    y: at.y + (at.box.top - BEYOND) * at.scale,
    width: (at.box.right - at.box.left + 2 * BEYOND) * at.scale,
    height: (at.box.bottom - at.box.top + 2 * BEYOND) * at.scale,
  };
  const crank = drawing.crank;
  // from above all of them; in a section those whose gap is best seen there, or that have none
  const isShown = (row: Drawing["around"][number]): boolean => {
    const gap = gaps.find((each) => each.index === row.index);
    return !gap || view === "plan" || bestView(gap.at_mm, gap.to_mm) === view;
  };
  return (
    <g>
      <clipPath id={`room-${view}`}>
        <rect {...room} />
      </clipPath>
      <g>
        {(clearances ? drawing.around : []).filter(isShown).map((row) => {
          const ring = row[`${view}_mm`].map(flat);
          if (ring.length < 2) return null;
          const box = boxOf(ring);
          const gap = gaps.find((each) => each.index === row.index);
          // in its own section a name stands below the gap's far end, elsewhere at its corner
          const [nameX, nameY] =
            gap && view !== "plan"
              ? [place(gap.to_mm)[0] - 30, place(gap.to_mm)[1] + 18]
              : [box.left + 4, box.top + 14];
          return (
            <g key={row.index} fill="none" stroke="var(--ink-2)" data-around={row.name}>
              <path
                d={pathOf(ring, ring.length > 2)}
                strokeDasharray={THIN}
                strokeWidth="1.25"
                clipPath={`url(#room-${view})`}
              />
              <Words
                rank="name"
                x={Math.min(Math.max(nameX, room.x + 4, 4), room.x + room.width - 80)}
                y={Math.min(Math.max(nameY, room.y + 14), room.y + room.height - 6)}
                fontSize="12"
                fill="var(--ink-2)"
                stroke="var(--paper)"
                strokeWidth="3"
                paintOrder="stroke"
              >
                {row.name}
              </Words>
            </g>
          );
        })}
        {crank && view !== "plan" && (
          <Crank crank={crank} view={view} scale={at.scale} place={place} />
        )}
        {gaps
          .filter((each) => bestView(each.at_mm, each.to_mm) === view)
          .map((each) => (
            <Gap key={each.index} clearance={each} place={place} />
          ))}
      </g>
      {view === "plan" && pan.flange && (
        <g fill="none" stroke="var(--ink)" data-flange>
          <path d={pathOf(pan.flange.outline_mm.map(flat))} strokeWidth="1.25" />
          {pan.flange.bolts.map((bolt, index) => {
            const [x, y] = flat([bolt.x_mm, bolt.y_mm]);
            return (
              <circle
                key={index}
                cx={x}
                cy={y}
                r={Math.max(2, (bolt.diameter_mm / 2) * at.scale)}
              />
            );
          })}
        </g>
      )}
      {crank &&
        view === "plan" &&
        pan.scrapers.map((strip) => {
          const y = (strip.side === "left" ? 1 : -1) * (crank.swept_radius_mm + strip.gap_mm);
          return (
            <path
              key={strip.name}
              d={pathOf([flat([strip.from_x_mm, y]), flat([strip.to_x_mm, y])], false)}
              stroke="var(--ink)"
              strokeWidth="2.5"
              strokeDasharray="7 2"
            />
          );
        })}
      {pan.bosses.map((boss) => {
        const [x, y] = place([boss.x_mm, boss.y_mm, -boss.depth_mm]);
        const r = Math.max(3, (boss.bore_mm / 2) * at.scale);
        return (
          <g key={boss.name} stroke="var(--ink)" fill="none" data-boss={boss.name}>
            <circle cx={x} cy={y} r={r} fill="var(--panel)" strokeWidth="1.5" data-keep-free />
            {boss.blocked ? (
              <path d={`M${x - r} ${y - r}l${2 * r} ${2 * r}m0 ${-2 * r}l${-2 * r} ${2 * r}`} />
            ) : (
              <path d={`M${x - r - 4} ${y}h${2 * r + 8}M${x} ${y - r - 4}v${2 * r + 8}`} />
            )}
            <Words
              rank="part"
              anchor={[x, y]}
              x={x + r + 6}
              y={y + 4}
              fontSize="12"
              fill="var(--ink)"
              stroke="var(--paper)"
              strokeWidth="3"
              paintOrder="stroke"
            >
              {boss.name}
            </Words>
          </g>
        );
      })}
    </g>
  );
});
