import type { ReactElement } from "react";
import type { PressureStage } from "../../api/pressure";
import { useSettings } from "../../parts/settings";
import { flowAs, pressureAs, volumeAs } from "../../parts/units";
import { drawnAt, drunkAt, givenAt, type Now } from "./now";
import { DryWords } from "./DryDrawn";
import type { PartAt, Plan } from "./plan";
import { TwoWords } from "./TwoWords";
import type { DryNow } from "./useDryNow";

const percent = (share: number): string => `${(share * 100).toFixed(0)} %`;

/** Figures in the units shown, with their units. */
interface Tell {
  bar: (value: number) => string;
  flow: (value: number) => string;
  litres: (value: number) => string;
}

function useTell(): Tell {
  const { system, units } = useSettings();
  const said = ({ figure, unit }: { figure: string; unit: string }): string => `${figure} ${unit}`;
  return {
    bar: (value) => said(pressureAs(units, system, value)),
    flow: (value) => said(flowAs(units, system, value)),
    litres: (value) => said(volumeAs(units, system, value)),
  };
}

interface Drawn {
  stage: PressureStage;
  plan: Plan;
  now: Now;
  tell: Tell;
  /** Of a dry sump, once it has come. */
  dry: DryNow | null;
}

/** What the part of the line has: its pressure, or whether it is open. */
function stateOf(part: PartAt, now: Now, tell: Tell): string {
  switch (part.kind) {
    case "check_valve":
      return now.flow(part.id, "valve") > 0.05 ? "open" : "shut";
    case "shut_off_valve":
    case "restrictor":
      return "";
    default:
      return tell.bar(now.pressure(part.node));
  }
}

/** From the mouth to the row. */
function Before({ stage, plan, now, tell, passes }: Drawn & { passes: boolean }): ReactElement {
  const [x, y] = plan.pump;
  const inRiser = now.gas(stage.layout.outlet);
  const row = plan.parts[0]?.y ?? 0;
  return (
    <>
      <TwoWords
        at={[x - 38, y - 6]}
        anchor="end"
        first="Pump"
        second={tell.bar(now.pressure(stage.layout.outlet))}
      />
      <TwoWords
        at={[x - 14, y + 66]}
        anchor="end"
        first={plan.dry ? "From the tank" : "Pickup tube"}
        second={`draws ${tell.flow(drawnAt(stage, now).all)}`}
      />
      {plan.relief && (
        <TwoWords
          at={[plan.relief.at[0] + 16, plan.relief.at[1] - 8]}
          first={plan.relief.name}
          second={passes ? `lets ${tell.flow(now.flow(plan.relief.id, "relief"))} back` : "shut"}
        />
      )}
      {inRiser >= 0.01 && (
        <TwoWords
          at={[x - 14, row + 60]}
          anchor="end"
          first={`${percent(inRiser)} air,`}
          second="squeezed"
        />
      )}
    </>
  );
}

/** Along the row, and the bottles. */
function Along({ stage, plan, now, tell }: Drawn): ReactElement {
  const volumeL = stage.bottle?.volume_l ?? 1;
  return (
    <>
      {plan.parts
        .filter(({ kind }) => kind !== "tee")
        .map((part) => (
          <TwoWords
            key={part.id}
            at={[part.x, part.y + (part.kind === "shut_off_valve" ? 28 : 46)]}
            anchor="middle"
            rank="name"
            first={part.name}
            second={stateOf(part, now, tell)}
          />
        ))}
      {plan.bottles.map((bottle) => {
        const chargeL = now.chargeL(bottle.id);
        const given = givenAt(stage, now, bottle.id);
        const does =
          given > 0.3
            ? `gives ${tell.flow(given)}`
            : given < -0.3
              ? `takes ${tell.flow(-given)}`
              : "holds its oil";
        return (
          <g key={bottle.id}>
            <TwoWords
              at={[bottle.x + bottle.width / 2, bottle.y + bottle.height + 18]}
              anchor="middle"
              first={`${bottle.name}, ${does}`}
            />
            <text
              x={
                bottle.x +
                (chargeL / volumeL > 0.3 ? 14 : 26 + (chargeL / volumeL) * (bottle.width - 22))
              }
              y={bottle.y + bottle.height / 2 + 5}
              fontSize="15"
              fontWeight="600"
              fill={chargeL / volumeL > 0.3 ? "#1c211f" : "var(--ink)"}
            >
              {tell.litres(chargeL)}
            </text>
          </g>
        );
      })}
    </>
  );
}

/** The gallery, what it feeds, and the pan. */
function After({ stage, plan, now, tell, dry, isDip }: Drawn & { isDip: boolean }): ReactElement {
  const { runsDry } = useSettings().limits;
  const jets = plan.jets.reduce((sum, { id }) => sum + now.flow(id, "jets"), 0);
  const bearings = now.flow(stage.layout.gallery_id, "bearings");
  const [left, gallery] = plan.gallery.from;
  const { section } = plan;
  return (
    <>
      <TwoWords
        at={plan.galleryWords}
        first={`Main gallery ${tell.bar(now.gallery)}`}
        second={`usual ${tell.bar(now.usual)} · ${tell.flow(drunkAt(stage, now))} in all`}
        isBad={isDip}
      />
      <TwoWords
        at={[left + 16, gallery + 92]}
        first={`Bearings ${tell.flow(bearings)}`}
        second={plan.jets.length > 0 ? `jets ${tell.flow(jets)}` : ""}
      />
      {plan.consumers.map((each) => (
        <TwoWords
          key={each.id}
          at={[each.x + each.width / 2, each.y - 22]}
          anchor="middle"
          rank="name"
          first={each.name}
          second={tell.flow(now.flow(each.id, each.kind === "head" ? "cams" : "bearings"))}
        />
      ))}
      {plan.dry ? (
        <DryWords plan={plan.dry} dry={dry} now={now} />
      ) : (
        <TwoWords
          at={[section.x + section.box.left * section.scale, plan.height - 22]}
          first={now.mouthGas >= 0.01 ? `Mouth: ${percent(now.mouthGas)} air` : "Mouth covered"}
          second={`${tell.litres(now.inPanL)} in the pan`}
          isBad={now.mouthGas > runsDry}
        />
      )}
      <TwoWords
        at={[(plan.back[1]?.[0] ?? 0) - 12, plan.height - 50]}
        anchor="end"
        first={`${tell.litres(now.heldL)} up top and coming down`}
      />
    </>
  );
}

/** What each part of the drawing carries, beside it. */
export function CircuitWords(drawn: {
  stage: PressureStage;
  plan: Plan;
  now: Now;
  dry: DryNow | null;
  /** The relief lets oil back. */
  passes: boolean;
  /** The gallery has less than it should. */
  isDip: boolean;
}): ReactElement {
  const tell = useTell();
  return (
    <g className="font-figure">
      <Before {...drawn} tell={tell} />
      <Along {...drawn} tell={tell} />
      <After {...drawn} tell={tell} />
    </g>
  );
}
