import { useMemo, useRef, type ReactElement } from "react";
import type { PressureStage } from "../../api/pressure";
import { useBuildView } from "../../document/BuildContext";
import { ofKind } from "../../document/circuit/circuit";
import { pathOf } from "../../drawing/geometry";
import type { MovingFrame } from "../../drawing/movingOil";
import { SectionView } from "../../drawing/SectionView";
import type { Drawing, OilSurface } from "../../drawing/views";
import { useClearWords } from "../../drawing/Words";
import { useSettings } from "../../parts/settings";
import { CircuitWords } from "./CircuitWords";
import { DryDrawn } from "./DryDrawn";
import { GlassPipe } from "../../drawing/GlassPipe";
import { nowAt, type Now } from "./now";
import { PumpSymbol } from "../../drawing/OilParts";
import { BottleSymbol, PartSymbol } from "./PartSymbol";
import { planOf, PIPE, type Plan } from "./plan";
import { useDryNow } from "./useDryNow";

/** The relief beside the pump: shut, or passing oil back to the pump's inlet. */
function Relief({ plan, passes }: { plan: Plan; passes: boolean }): ReactElement | null {
  if (!plan.relief) return null;
  const [x, y] = plan.relief.at;
  const [riser, pump] = plan.pump;
  const line = `M${riser + PIPE / 2} ${y - 34}H${x}V${y - 22}M${x} ${y + 18}V${pump + 40}H${riser + PIPE / 2}`;
  return (
    <g data-relief={passes ? "open" : "shut"}>
      <path d={line} fill="none" stroke="var(--ink)" strokeWidth="8" />
      <path
        d={line}
        fill="none"
        stroke={passes ? "var(--oil)" : "var(--metal-2)"}
        strokeWidth="5"
      />
      <PartSymbol kind="relief" x={x} y={y} scale={1} gas={0} isOpen={passes} twin={false} />
    </g>
  );
}

/** Bearings under the gallery with their oil thrown off, and jets above it. */
function Feeds({ plan, now }: { plan: Plan; now: Now }): ReactElement {
  return (
    <g>
      {plan.bearings.map(([x, y]) => (
        <g key={x}>
          <path d={`M${x} ${y - 46 + PIPE / 2}V${y - 14}`} stroke="var(--ink)" strokeWidth="7" />
          <path
            d={`M${x} ${y - 46 + PIPE / 2 - 1}V${y - 14}`}
            stroke="var(--oil)"
            strokeWidth="4"
          />
          <circle cx={x} cy={y} r="15" fill="var(--oil)" stroke="var(--ink)" strokeWidth="1.5" />
          <circle cx={x} cy={y} r="10" fill="var(--metal-2)" stroke="var(--ink)" />
          {now.rpm > 0 && (
            <path
              d={`M${x - 7} ${y + 19}v4M${x} ${y + 20}v6M${x + 7} ${y + 19}v4`}
              stroke="var(--oil-deep)"
              strokeWidth="1.5"
            />
          )}
        </g>
      ))}
      {plan.jets.map((jets) =>
        jets.at.map(([x, y]) => {
          const sprays = now.flow(jets.id, "jets") > 0.05;
          return (
            <g key={`${jets.id} ${x}`} data-jet={sprays ? "open" : "shut"}>
              <rect
                x={x - 4}
                y={y - PIPE / 2 - 7}
                width="8"
                height="7"
                fill="var(--metal)"
                stroke="var(--ink)"
              />
              {sprays && (
                <path
                  d={`M${x} ${y - 16}l-5 -11M${x} ${y - 16}v-13M${x} ${y - 16}l5 -11`}
                  stroke="var(--oil-deep)"
                  strokeWidth="1.25"
                />
              )}
            </g>
          );
        }),
      )}
    </g>
  );
}

/** Heads with the oil that lies in them, and the way down. */
function Heads({ plan, now }: { plan: Plan; now: Now }): ReactElement {
  const back = pathOf(plan.back, false);
  return (
    <g>
      {plan.consumers.length > 0 && (
        <g fill="none" data-coming-down>
          <path d={back} stroke="var(--ink)" strokeWidth="11" strokeLinejoin="round" />
          <path d={back} stroke="var(--panel)" strokeWidth="8" strokeLinejoin="round" />
          <path
            d={back}
            stroke="var(--oil)"
            strokeWidth={Math.min(6, 1 + now.heldL * 1.5)}
            strokeLinejoin="round"
            transform="translate(-1 0)"
          />
        </g>
      )}
      {plan.consumers.map((each) => {
        const held = Math.min(0.92, now.held(each.id, "floor") / 1.5);
        const top = each.y + each.height * (1 - held);
        return (
          <g key={each.id} data-part={each.kind}>
            <rect
              x={each.x}
              y={each.y}
              width={each.width}
              height={each.height}
              fill="var(--panel)"
            />
            <rect
              x={each.x}
              y={top}
              width={each.width}
              height={each.y + each.height - top}
              fill="var(--oil)"
            />
            <rect
              x={each.x}
              y={each.y}
              width={each.width}
              height={each.height}
              fill="none"
              stroke="var(--ink)"
              strokeWidth="1.75"
              data-keep-free
            />
          </g>
        );
      })}
    </g>
  );
}

/** The circuit drawn once in the order in which oil goes through it, with what it carries now. */
export function CircuitDrawing({
  stage,
  drawing,
  oil,
  moving,
  time,
  width,
  height,
  words,
}: {
  stage: PressureStage;
  drawing: Drawing;
  oil: OilSurface;
  /** The run's own oil in the section, where it is known. */
  moving: MovingFrame | null;
  time: number;
  width: number;
  height: number;
  words: string;
}): ReactElement {
  const { limits } = useSettings();
  const { circuit } = useBuildView().build.document;
  const svg = useRef<SVGSVGElement>(null);
  useClearWords(svg);
  const { layout } = stage;
  const plan = useMemo(
    () => planOf(layout, circuit.components, drawing, width, height),
    [layout, circuit.components, drawing, width, height],
  );
  const now = useMemo(() => nowAt(stage, time), [stage, time]);
  const dry = useDryNow(time);
  const twins = new Set(
    ofKind(circuit, "remote_filter").flatMap(({ id, filters }) => (filters === 2 ? [id] : [])),
  );
  const passes = plan.relief !== null && now.flow(plan.relief.id, "relief") > 0.3;
  return (
    <svg
      ref={svg}
      width={width}
      height={height}
      role="img"
      aria-label={words}
      className="block shrink-0"
    >
      {plan.dry ? (
        <DryDrawn plan={plan.dry} dry={dry} now={now} />
      ) : (
        <SectionView
          drawing={drawing}
          at={plan.section}
          oil={oil}
          airy={now.mouthGas > limits.runsDry}
          moving={moving}
        />
      )}
      <Relief plan={plan} passes={passes} />
      <Heads plan={plan} now={now} />
      {plan.pipes.map((pipe) => (
        <GlassPipe key={pipe.key} pipe={pipe} gas={now.gas(pipe.node)} />
      ))}
      <Feeds plan={plan} now={now} />
      <PumpSymbol at={plan.pump} />
      {plan.parts.map((part) => (
        <PartSymbol
          key={part.id}
          kind={part.kind}
          x={part.x}
          y={part.y}
          scale={part.scale}
          gas={now.gas(part.node)}
          isOpen={part.kind !== "check_valve" || now.flow(part.id, "valve") > 0.05}
          twin={twins.has(part.id)}
        />
      ))}
      {plan.bottles.map((bottle) => (
        <BottleSymbol
          key={bottle.id}
          {...bottle}
          share={now.chargeL(bottle.id) / (stage.bottle?.volume_l ?? 1)}
        />
      ))}
      <CircuitWords
        stage={stage}
        plan={plan}
        now={now}
        dry={dry}
        passes={passes}
        isDip={now.gallery < limits.dipShare * now.usual}
      />
    </svg>
  );
}
