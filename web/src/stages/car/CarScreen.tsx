import type { ReactElement } from "react";
import { usePan, type BuildDocument, type PanFigures } from "../../api/queries";
import { CarPlan } from "../../drawing/CarPlan";
import { Fitted } from "../../drawing/Fitted";
import { Sheet } from "../../drawing/Sheet";
import { AroundNumbers } from "../../document/AroundNumbers";
import { OilNumbers } from "../../document/OilNumbers";
import { PumpNumbers } from "../../document/PumpNumbers";
import { InventedNotice } from "../../document/InventedNotice";
import { useBuildView } from "../../document/BuildContext";
import { ClassRules } from "../../document/ClassRules";
import { useEdits, type Edits } from "../../document/useEdits";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { EditFigure } from "../../parts/EditFigure";
import { FigureGroup } from "../../parts/FigureGroup";
import { Mark } from "../../parts/Mark";
import { Notice } from "../../parts/Notice";
import { useSettings } from "../../parts/settings";
import { useSize } from "../../parts/size";
import { volumeAs } from "../../parts/units";
import { groundWords } from "./groundWords";

type CarPart = BuildDocument["car"];

/** Which way of the car the engine's own axes point, in words: so that nobody mixes them up. */
function axesWords(nose: CarPart["nose_points"]): string {
  const words = {
    front: "Engine along the car: its nose is the car's front, its left the car's left.",
    rear: "Engine along the car, turned round: its nose is the car's rear, its left the car's right.",
    left: "Engine across the car: its nose is on the car's left, its left at the car's rear. The car's side g runs along this engine.",
    right:
      "Engine across the car: its nose is on the car's right, its left at the car's front. The car's side g runs along this engine.",
  };
  return words[nose];
}

/** The gap to the ground in words. */
function Ground({ pan }: { pan: PanFigures | undefined }): ReactElement | null {
  const { system, units } = useSettings();
  const ground = pan?.ground;
  if (!ground) return null;
  const short = ground.margin_mm !== null && ground.margin_mm < 0;
  return (
    <p className="flex gap-2 py-2 text-[14px]" data-ground>
      <Mark state={ground.margin_mm === null ? "caution" : short ? "bad" : "good"} />
      <span>
        {groundWords(ground, units, system)}. Inside of the pan, car at rest: sheet, drain plug,
        roll and springs come off it.
      </span>
    </p>
  );
}

const CYLINDERS: Record<NonNullable<CarPart["cylinders"]> | "unsaid", string> = {
  unsaid: "not said",
  in_line: "in line",
  vee: "vee",
  flat: "flat",
};

type Put = (next: Partial<CarPart>, change: string) => void;

/** What is round the pan, with the smallest gaps. */
function Around({
  pan,
  width,
}: {
  pan: PanFigures | undefined;
  width: number;
}): ReactElement | null {
  const { build, forecast } = useBuildView();
  const drawing = forecast.settled.data?.drawing;
  if (!drawing || !pan || drawing.around.length === 0 || width <= 0) return null;
  return (
    <figure className="mt-5">
      <figcaption className="font-figure text-[18px] font-semibold">
        What is round the pan, and the smallest gaps
      </figcaption>
      <Sheet
        drawing={drawing}
        oil={drawing.standing}
        airy={false}
        words="The pan with what is round it"
        callout={["", ""]}
        width={width}
        height={400}
        only={null}
        over={(at) => (
          <Fitted drawing={drawing} document={build.document} clearances={pan.clearances} at={at} />
        )}
      />
    </figure>
  );
}

/** The car from above: where the engine is picked. */
function FromAbove({
  pan,
  fault,
  put,
}: {
  pan: PanFigures | undefined;
  fault: string | null;
  put: Put;
}): ReactElement {
  const { build, go } = useBuildView();
  const [box, { width }] = useSize();
  const { car } = build.document;
  return (
    <section aria-label="The car from above" className="min-w-0 flex-1 overflow-y-auto px-6 pt-3">
      <h1 className="font-figure text-[22px] leading-7 font-semibold">
        The car, and the engine in it
      </h1>
      <p className="max-w-2xl text-[14px] text-ink-2">
        Pick where the engine sits and where its crank&apos;s nose, the damper end, points.
      </p>
      {build.invented.includes("car") && <InventedNotice what="car" />}
      {fault && (
        <div className="max-w-xl py-2">
          <Notice kind="bad" title="Not saved">
            {fault}
          </Notice>
        </div>
      )}
      <div ref={box} className="mt-4 max-w-[760px]">
        {width > 0 && (
          <CarPlan
            place={car.place ?? null}
            nose={car.nose_points}
            cylinders={car.cylinders ?? null}
            width={width}
            onPlace={(place) => put({ place }, `engine in the ${place}`)}
            onNose={(nose) => put({ nose_points: nose }, `crank's nose to the ${nose}`)}
          />
        )}
      </div>
      <p className="mt-3 max-w-2xl text-[15px]">
        {axesWords(car.nose_points)}{" "}
        {car.lean_right_deg !== 0 &&
          `It leans ${Math.abs(car.lean_right_deg)}° to its own ${car.lean_right_deg > 0 ? "right" : "left"}: the oil never stands level in its pan.`}
      </p>
      <p className="mt-1 max-w-2xl text-[14px] text-ink-2">
        Dark arrows: the engine&apos;s own forward and left, in which the pan is drawn. Grey arrows:
        the car&apos;s, in which g is given.
      </p>
      <Around pan={pan} width={width} />
      <div className="mt-4 pb-6">
        <Button look="main" onClick={() => go("pan")}>
          On to the pan
        </Button>
      </div>
    </section>
  );
}

/** One figure of the car. */
function One({
  label,
  field,
  value,
  note,
  type,
}: {
  label: string;
  field: string;
  value: number;
  note?: string;
  type: Edits["type"];
}): ReactElement {
  return (
    <EditFigure
      label={label}
      field={field}
      value={value}
      note={note}
      onType={(typed) => type([field], typed)}
    />
  );
}

function EngineFigures({ put, type }: { put: Put; type: Edits["type"] }): ReactElement {
  const { car } = useBuildView().build.document;
  return (
    <FigureGroup title="Engine">
      <Choice
        label="Cylinders"
        value={car.cylinders ?? "unsaid"}
        choices={CYLINDERS}
        onChoose={(kind) => put({ cylinders: kind === "unsaid" ? null : kind }, "cylinders")}
      />
      <One
        label="Leaned to its right"
        field="car.lean_right_deg"
        value={car.lean_right_deg}
        note="minus: to its left"
        type={type}
      />
      <One
        label="Nose higher than tail"
        field="car.nose_up_deg"
        value={car.nose_up_deg}
        type={type}
      />
    </FigureGroup>
  );
}

const WEAR: Record<NonNullable<CarPart["wear"]> | "unsaid", string> = {
  unsaid: "not said",
  sound: "sound",
  used: "used",
  worn: "worn",
};

const POWER = [
  ["engine_power_kw", "Its power"],
  ["power_rpm", "at an engine speed of"],
  ["top_rpm", "Turned to at most"],
] as const;

/** What the engine gives and how worn it is: blow-by and heat come from them. */
function PowerFigures({ put, type }: { put: Put; type: Edits["type"] }): ReactElement {
  const { car } = useBuildView().build.document;
  return (
    <FigureGroup title="Power and wear">
      {POWER.map(([key, label]) => (
        <EditFigure
          key={key}
          label={label}
          field={`car.${key}`}
          value={car[key] ?? null}
          note={
            key === "top_rpm" && car.top_rpm == null
              ? "while it is not known, checks without a lap take a usual speed"
              : undefined
          }
          onType={(typed) => type([`car.${key}`], typed)}
          onClear={() => put({ [key]: null }, `${label}: not known`)}
        />
      ))}
      <Choice
        label="Rings and bores"
        value={car.wear ?? "unsaid"}
        choices={WEAR}
        onChoose={(wear) => put({ wear: wear === "unsaid" ? null : wear }, "wear of the engine")}
      />
    </FigureGroup>
  );
}

const GROUND = [
  [
    "rail_height_mm",
    "Pan rail above the ground",
    "at its rear face, under the crank, car on its wheels",
  ],
  ["least_ground_mm", "Wanted under the pan", undefined],
] as const;

/** How high the pan hangs, and how high it should. */
function GroundFigures({
  pan,
  put,
  type,
}: {
  pan: PanFigures | undefined;
  put: Put;
  type: Edits["type"];
}): ReactElement {
  const { car } = useBuildView().build.document;
  return (
    <FigureGroup title="Ground">
      {GROUND.map(([key, label, note]) => (
        <EditFigure
          key={key}
          label={label}
          field={`car.${key}`}
          value={car[key] ?? null}
          note={note}
          onType={(typed) => type([`car.${key}`], typed)}
          onClear={() => put({ [key]: null }, `${label}: not known`)}
        />
      ))}
      <Ground pan={pan} />
    </FigureGroup>
  );
}

/** The car: where the engine sits and how, what its pump and oil are, and the ground below. */
export function CarScreen(): ReactElement {
  const { system, units } = useSettings();
  const { build, forecast } = useBuildView();
  const pan = usePan(build, true).data;
  const { document } = build;
  const { car } = document;
  const { fault, type, replace } = useEdits();
  const put: Put = (next, change) =>
    replace({ ...document, car: { ...document.car, ...next } }, change);
  const held = forecast.shown?.drawing.held.total_l ?? document.oil.away_l;
  const away = volumeAs(units, system, held);
  return (
    <div className="flex min-h-0 flex-1 flex-col lg:flex-row">
      <FromAbove pan={pan} fault={fault} put={put} />
      <aside
        aria-label="Figures of the car"
        className="border-t border-ink bg-panel lg:w-[352px] lg:shrink-0 lg:overflow-y-auto lg:border-t-0 lg:border-l"
      >
        <EngineFigures put={put} type={type} />
        <PowerFigures put={put} type={type} />
        <GroundFigures pan={pan} put={put} type={type} />
        <AroundNumbers document={document} pan={pan} onType={type} onReplace={replace} />
        <PumpNumbers document={document} onType={type} onReplace={replace} />
        <OilNumbers document={document} onType={type} onReplace={replace}>
          <p className="pt-2 text-[13px] text-ink-2">
            {away.figure} {away.unit} never come near the pickup while the engine runs.
          </p>
        </OilNumbers>
        <ClassRules
          rules={car.class_rules}
          onRule={(kind, ruling) =>
            put({ class_rules: { ...car.class_rules, [kind]: ruling } }, `class rules: ${kind}`)
          }
        />
      </aside>
    </div>
  );
}
