import type { ReactElement } from "react";
import type { Lines } from "../../api/lines";
import { pathOf, type Point } from "../../drawing/geometry";
import { HALO, Words } from "../../drawing/Words";
import { onPage, type Frame, type View } from "./frame";

const flatIn =
  (frame: Frame, view: View) =>
  (places: readonly (readonly number[])[]): Point[] =>
    places.map(([a = 0, b = 0]) => onPage(frame, view, view === "plan" ? [a, b, 0] : [a, 0, b]));

const middleOf = (ring: readonly Point[]): Point =>
  ring.reduce<Point>(
    ([sx, sy], [px, py]) => [sx + px / ring.length, sy + py / ring.length],
    [0, 0],
  );

interface InView {
  lines: Lines;
  frame: Frame;
  view: View;
}

/** The pan, what is round the lines, and the parts that have a place. */
export function Around({ lines, frame, view }: InView): ReactElement {
  const flat = flatIn(frame, view);
  const pan = flat(view === "plan" ? lines.pan_plan_mm : lines.pan_side_mm);
  return (
    <>
      <path d={pathOf(pan)} fill="var(--metal-2)" stroke="var(--metal-ink)" strokeWidth="1.5" />
      {lines.around.map((each) => (
        <path
          key={each.name}
          d={pathOf(flat(view === "plan" ? each.plan_mm : each.side_mm))}
          fill="none"
          stroke="var(--ink-2)"
          strokeWidth="1.2"
          strokeDasharray="7 3 2 3"
        />
      ))}
      {lines.components.map((part) => {
        const [x, y] = onPage(frame, view, part.at_mm);
        return (
          <path
            key={part.id}
            d={`M${x - 5} ${y - 5}h10v10h-10z`}
            fill="var(--panel)"
            stroke="var(--ink)"
            strokeWidth="1.2"
            data-keep-free
          />
        );
      })}
    </>
  );
}

/** Their names, over all lines. */
export function Names({ lines, frame, view }: InView): ReactElement {
  const flat = flatIn(frame, view);
  const pan = middleOf(flat(view === "plan" ? lines.pan_plan_mm : lines.pan_side_mm));
  return (
    <>
      <Words rank="part" x={pan[0]} y={pan[1]} fontSize="12" textAnchor="middle" mayGo {...HALO}>
        pan
      </Words>
      {lines.around.map((each) => {
        const [x, y] = middleOf(flat(view === "plan" ? each.plan_mm : each.side_mm));
        return (
          <Words
            key={each.name}
            rank="name"
            x={x}
            y={y}
            anchor={[x, y]}
            fontSize="12"
            textAnchor="middle"
            mayGo
            {...HALO}
          >
            {each.name}
          </Words>
        );
      })}
      {lines.components.map((part) => {
        const [x, y] = onPage(frame, view, part.at_mm);
        return (
          <Words
            key={part.id}
            rank="part"
            x={x + 8}
            y={y - 9}
            anchor={[x, y]}
            fontSize="12"
            mayGo
            {...HALO}
          >
            {part.name}
          </Words>
        );
      })}
    </>
  );
}

/** Boxes along a line that words keep off. */
export function KeptFree({
  places,
  wide,
}: {
  places: readonly Point[];
  wide: number;
}): ReactElement {
  const pieces: Point[][] = [];
  for (let at = 0; at + 1 < places.length; at += 2) pieces.push(places.slice(at, at + 3));
  return (
    <>
      {pieces.map((piece, at) => {
        const [xs, ys] = [piece.map(([x]) => x), piece.map(([, y]) => y)];
        const [left, top] = [Math.min(...xs) - wide / 2, Math.min(...ys) - wide / 2];
        return (
          <rect
            key={at}
            x={left}
            y={top}
            width={Math.max(...xs) + wide / 2 - left}
            height={Math.max(...ys) + wide / 2 - top}
            fill="none"
            data-keep-free
          />
        );
      })}
    </>
  );
}
