import type { ReactElement } from "react";
import type { Line } from "../../api/lines";
import { Button } from "../../parts/Button";
import { EditFigure } from "../../parts/EditFigure";
import { useSettings } from "../../parts/settings";
import { lengthAs, type System, type Units } from "../../parts/units";
import { withBend, type WayPoint } from "./frame";
import type { Lay } from "./useLay";

const AXES = ["ahead", "left", "up"] as const;

type Typed = { at_mm: (number | string)[]; radius_mm: number | string | null };

const placeWords = ({ at_mm: at }: WayPoint, units: Units, system: System): string =>
  `${at.map((each) => lengthAs(units, system, each).figure).join(", ")} ${lengthAs(units, system, 0).unit}`;
const bendWords = ({ radius_mm: radius }: WayPoint, units: Units, system: System): string =>
  radius ? `, radius ${lengthAs(units, system, radius).figure}` : ", elbow";

/** Points of a way as numbers: the car's own axes, from the rail's rear face on the crank. */
export function PointsTable({ line, lay }: { line: Line; lay: Lay }): ReactElement {
  const { units, system } = useSettings();
  const points: WayPoint[] = line.points.map(({ at_mm, radius_mm }) => ({
    at_mm: at_mm,
    radius_mm,
  }));
  const send = (next: readonly Typed[]): Promise<unknown> => lay.type({ points: next as never });
  const with_ = (index: number, change: (point: Typed) => Typed): Typed[] =>
    points.map((each, n) => {
      const typed: Typed = { at_mm: [...each.at_mm], radius_mm: each.radius_mm };
      return n === index ? change(typed) : typed;
    });
  const name = (index: number): string =>
    index === 0 ? "Start" : index === points.length - 1 ? "End" : `Bend ${index}`;
  return (
    <>
      <p className="pb-1 text-[13px] text-ink-2">
        Ahead of the rail&apos;s rear face, to the left, over the rail, along the car.
      </p>
      {points.map((point, index) => {
        const isBend = index > 0 && index < points.length - 1;
        return (
          <details key={index} className="border-b border-hair" data-way-point={index}>
            <summary className="py-1 text-[14px]">
              {name(index)}{" "}
              <span className="font-figure text-ink-2">
                {placeWords(point, units, system)}
                {isBend && bendWords(point, units, system)}
              </span>
            </summary>
            <div className="pb-2 pl-3">
              {AXES.map((axis, n) => (
                <EditFigure
                  key={axis}
                  label={`${name(index)}, ${axis}`}
                  field={`points.${index}.at_mm.${n}`}
                  value={point.at_mm[n] ?? 0}
                  onType={(typed) =>
                    send(
                      with_(index, (each) => ({
                        ...each,
                        at_mm: each.at_mm.map((was, k) => (k === n ? typed : was)),
                      })),
                    )
                  }
                />
              ))}
              {isBend && (
                <EditFigure
                  label={`${name(index)}, radius`}
                  field={`points.${index}.radius_mm`}
                  value={point.radius_mm}
                  onType={(typed) => send(with_(index, (each) => ({ ...each, radius_mm: typed })))}
                />
              )}
              {index < points.length - 1 && (
                <Button
                  look="bare"
                  className="px-0 underline"
                  onClick={() =>
                    lay.lay({ points: withBend(points, index, line.least_mm) as never })
                  }
                >
                  a bend after it
                </Button>
              )}
              {isBend && (
                <Button
                  look="bare"
                  className="ml-3 px-0 underline"
                  onClick={() => lay.lay({ points: points.filter((_, n) => n !== index) as never })}
                >
                  take the bend out
                </Button>
              )}
            </div>
          </details>
        );
      })}
      <Button look="bare" className="px-0 underline" onClick={() => lay.lay({ points: [] })}>
        take its way away
      </Button>
    </>
  );
}
