import { memo, useMemo, useRef, type ReactElement, type ReactNode } from "react";
import { useSettings } from "../parts/settings";
import { lengthAs } from "../parts/units";
import { Dimension } from "./Dimension";
import { boxOf, type Point } from "./geometry";
import type { MovingFrame } from "./movingOil";
import { PlanView } from "./PlanView";
import { SectionView, type SectionPlace } from "./SectionView";
import { sectionTitle } from "./sectionTitle";
import { useClearWords, Words } from "./Words";
import {
  layoutOne,
  layoutSections,
  layoutTall,
  layoutWide,
  toPage,
  type Drawing,
  type OilSurface,
  type Placed,
  type ViewName,
} from "./views";

const noses = {
  front: "nose",
  rear: "crank's nose, rearward in the car",
  left: "crank's nose, left in the car",
  right: "crank's nose, right in the car",
} as const;

function ScaleBar({ scale, x, y }: { scale: number; x: number; y: number }): ReactElement {
  const { system, units } = useSettings();
  const wanted = system === "metric" ? [100, 50, 200, 400] : [101.6, 50.8, 203.2, 406.4];
  const mm = wanted.find((length) => length * scale > 50 && length * scale < 140) ?? 100;
  const { figure, unit } = lengthAs(units, system, mm);
  const part = (mm * scale) / 4;
  return (
    <g>
      {[0, 1, 2, 3].map((index) => (
        <rect
          key={index}
          x={x + index * part}
          y={y}
          width={part}
          height="5"
          fill={index % 2 === 0 ? "var(--ink)" : "var(--panel)"}
          stroke="var(--ink)"
          strokeWidth="0.9"
        />
      ))}
      <Words rank="title" x={x} y={y + 18} fontSize="13" textAnchor="middle" fill="var(--ink)">
        0
      </Words>
      <Words
        rank="title"
        x={x + 4 * part}
        y={y + 18}
        fontSize="13"
        textAnchor="middle"
        fill="var(--ink)"
      >
        {Number(figure)} {unit}
      </Words>
    </g>
  );
}

const Dimensions = memo(function Dimensions({
  drawing,
  at,
}: {
  drawing: Drawing;
  at: Placed;
}): ReactElement {
  const { system, units } = useSettings();
  const text = (mm: number): string => lengthAs(units, system, mm).figure;
  const place = (point: Point): Point => {
    const [u, v] = toPage[at.view](drawing, point);
    return [at.x + u * at.scale, at.y + v * at.scale];
  };
  const plan = boxOf(drawing.zones.flatMap((zone) => zone.outline_mm));
  if (at.view === "plan")
    return (
      <>
        <Dimension
          a={place([plan.right, plan.top])}
          b={place([plan.left, plan.top])}
          offset={14}
          text={text(plan.right - plan.left)}
        />
        <Dimension
          a={place([plan.left, plan.top])}
          b={place([plan.left, plan.bottom])}
          offset={18}
          text={text(plan.bottom - plan.top)}
        />
      </>
    );
  const section = drawing[at.view];
  if (section.inside_mm.length === 0) return <></>;
  const inside = boxOf(section.inside_mm.flat());
  const edge = inside.left;
  return (
    <Dimension
      a={place([edge, 0])}
      b={place([edge, inside.top])}
      offset={24}
      text={text(-inside.top)}
    />
  );
});

const isSection = (at: Placed): at is SectionPlace => at.view !== "plan";

function View({
  drawing,
  at,
  oil,
  airy,
  moving,
  over,
}: {
  drawing: Drawing;
  at: Placed;
  oil: OilSurface;
  airy: boolean;
  moving: MovingFrame | null;
  over: ((at: Placed) => ReactNode) | undefined;
}): ReactElement {
  return (
    <g>
      {isSection(at) ? (
        <SectionView drawing={drawing} at={at} oil={oil} airy={airy} moving={moving} />
      ) : (
        <PlanView drawing={drawing} at={at} oil={oil} airy={airy} moving={moving} />
      )}
      <Dimensions drawing={drawing} at={at} />
      {over?.(at)}
    </g>
  );
}

/** Whether a section's whole title fits beside that of the next. */
const isRoomy = (at: Placed): boolean => (at.box.right - at.box.left) * at.scale > 230;

/** A view's name under it; drawn after all views, so that no line of another crosses it. */
function Title({
  drawing,
  at,
  narrow,
}: {
  drawing: Drawing;
  at: Placed;
  /** No room for more than its name. */
  narrow: boolean;
}): ReactElement {
  const left = at.x + at.box.left * at.scale;
  const bottom = at.y + at.box.bottom * at.scale;
  const { system, units } = useSettings();
  const [name, words] =
    at.view === "plan" ? ["Plan", "from above"] : sectionTitle(drawing, at.view, system, units);
  return (
    <g>
      <Words
        rank="title"
        x={left}
        y={bottom + 26}
        fontSize="14"
        fontWeight="600"
        fill="var(--ink)"
        stroke="var(--paper)"
        strokeWidth="4"
        paintOrder="stroke"
      >
        {name}
        {!narrow && (
          <tspan dx="10" fontWeight="500" fill="var(--ink-2)">
            {words}
          </tspan>
        )}
        {at.view === "front" && drawing.lean_right_deg !== 0 && (
          <tspan x={left} dy="17" fontWeight="500" fill="var(--ink-2)">
            engine leaned {Math.abs(drawing.lean_right_deg)}°{" "}
            {drawing.lean_right_deg > 0 ? "right" : "left"}
          </tspan>
        )}
      </Words>
    </g>
  );
}

/** The pan in plan, side and front section at one scale, with the oil as it lies. */
export function Sheet({
  drawing,
  oil,
  airy,
  words,
  callout,
  width,
  height,
  only,
  moving = null,
  beside = null,
  over,
}: {
  drawing: Drawing;
  oil: OilSurface;
  airy: boolean;
  words: string;
  callout: readonly [string, string];
  width: number;
  height: number;
  /** One view alone, or all three. */
  only: ViewName | null;
  /** Moving oil in place of settled oil. */
  moving?: MovingFrame | null;
  /** Drawings that this one stands beside, at one scale: then sections alone, within the height. */
  beside?: readonly Drawing[] | null;
  /** What is drawn over each view. */
  over?: (at: Placed) => ReactNode;
}): ReactElement {
  const svg = useRef<SVGSVGElement>(null);
  useClearWords(svg);
  const tall = width < 560;
  const { views, sheetHeight } = useMemo(() => {
    if (only)
      return {
        views: layoutOne(drawing, only, width, height, beside ?? []),
        sheetHeight: height,
      };
    if (beside)
      return { views: layoutSections(drawing, beside, width, height), sheetHeight: height };
    if (!tall) return { views: layoutWide(drawing, width, height), sheetHeight: height };
    const stacked = layoutTall(drawing, width);
    return { views: stacked.views, sheetHeight: stacked.height };
  }, [drawing, only, tall, width, height, beside]);
  const plan = views.find((at) => at.view === "plan");
  const front = views.find((at) => at.view === "front");
  const calloutX = front && !beside ? front.x + front.box.left * front.scale : 34;
  const last = only || (tall && !beside) ? plan : front;
  return (
    <svg
      ref={svg}
      width={width}
      height={sheetHeight}
      role={over ? "group" : "img"}
      aria-label={words}
      className="block"
    >
      {views.map((at) => (
        <View
          key={at.view}
          drawing={drawing}
          at={at}
          oil={oil}
          airy={airy}
          moving={moving}
          over={over}
        />
      ))}
      {views.map((at) => (
        <Title
          key={at.view}
          drawing={drawing}
          at={at}
          narrow={(beside !== null && !only) || (at.view === "side" && !isRoomy(at))}
        />
      ))}
      {plan && (
        <g>
          <path
            d={`M4 ${plan.y + ((plan.box.top + plan.box.bottom) / 2) * plan.scale}l18 -6v12z`}
            fill="var(--ink)"
          />
          <Words
            rank="gap"
            x={4}
            y={plan.y + ((plan.box.top + plan.box.bottom) / 2) * plan.scale - 12}
            fontSize="13"
            fontWeight="600"
            fill="var(--ink)"
          >
            {drawing.nose_points === "front" ? noses.front : ""}
          </Words>
          {drawing.nose_points !== "front" && (
            <Words
              rank="gap"
              x={plan.x + plan.box.left * plan.scale}
              y={plan.y + plan.box.top * plan.scale - 26}
              fontSize="13"
              fontWeight="600"
              fill="var(--ink)"
            >
              Left of the page: {noses[drawing.nose_points]}
            </Words>
          )}
        </g>
      )}
      {(only || beside || !tall) && (
        <g fontSize="15">
          <Words
            rank="title"
            x={calloutX}
            y={only || beside ? 16 : 74}
            fontWeight="600"
            fill={airy ? "var(--bad)" : "var(--ink)"}
          >
            {callout[0]}
          </Words>
          <Words
            rank="title"
            x={calloutX}
            y={only || beside ? 35 : 94}
            fill="var(--ink-2)"
            fontSize="14"
          >
            {callout[1]}
          </Words>
        </g>
      )}
      {last && (
        <ScaleBar
          scale={last.scale}
          x={tall || only || beside ? width - 150 : last.x + last.box.left * last.scale}
          y={tall && !only && !beside ? sheetHeight - 34 : 24}
        />
      )}
    </svg>
  );
}
