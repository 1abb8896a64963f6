import type { ReactElement } from "react";
import type { BuildDocument, BuildOut, PanFigures } from "../../api/queries";
import { CarPlan } from "../../drawing/CarPlan";
import { Fitted } from "../../drawing/Fitted";
import { Sheet } from "../../drawing/Sheet";
import type { Drawing } from "../../drawing/views";
import { AroundNumbers } from "../../numbers/AroundNumbers";
import { OilNumbers } from "../../numbers/OilNumbers";
import { PumpNumbers } from "../../numbers/PumpNumbers";
import { InventedNotice } from "../../numbers/InventedNotice";
import { useEdits, type EditMutation } from "../../numbers/useEdits";
import { Button } from "../../parts/Button";
import { EditFigure } from "../../parts/EditFigure";
import { FigureGroup } from "../../parts/FigureGroup";
import { Mark } from "../../parts/Mark";
import { Notice } from "../../parts/Notice";
import { useSettings } from "../../parts/settings";
import { useSize } from "../../parts/size";
import { lengthAs, volumeAs } from "../../parts/units";

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

function Ground({ pan }: { pan: PanFigures | undefined }): ReactElement | null {
  const { system, units } = useSettings();
  const ground = pan?.ground;
  if (!ground) return null;
  const length = (mm: number): string => {
    const { figure, unit } = lengthAs(units, system, mm);
    return `${figure} ${unit}`;
  };
  const short = ground.margin_mm !== null && ground.margin_mm < 0;
  return (
    <p className="flex gap-2 py-2 text-[14px]" data-ground>
      <Mark state={ground.margin_mm === null ? "caution" : short ? "bad" : "good"} />
      <span>
        {length(ground.gap_mm)} under the pan&apos;s lowest corner, {length(ground.at_mm[0])} ahead
        of the rear face
        {ground.margin_mm !== null &&
          `: ${length(Math.abs(ground.margin_mm))} ${short ? "less than" : "more than"} wanted`}
        . Inside of the pan, car at rest: sheet, drain plug, roll and springs come off it.
      </span>
    </p>
  );
}

/** The car: where the engine sits and how, what its pump and oil are, and the ground below. */
export function CarScreen({
  build,
  drawing,
  pan,
  edit,
  onNext,
}: {
  build: BuildOut;
  drawing: Drawing | null;
  pan: PanFigures | undefined;
  edit: EditMutation;
  onNext: () => void;
}): ReactElement {
  const { system, units } = useSettings();
  const [box, { width }] = useSize();
  const { document } = build;
  const { car, oil } = document;
  const { fault, type, attempt, replace } = useEdits(edit);
  const put = (next: Partial<CarPart>, change: string): void =>
    attempt({
      kind: "document",
      document: { ...document, car: { ...car, ...next } },
      change,
    });
  const one = (label: string, field: string, value: number, note?: string): ReactElement => (
    <EditFigure
      label={label}
      field={field}
      value={value}
      note={note}
      onType={(typed) => type([field], typed)}
    />
  );
  const away = volumeAs(units, system, oil.away_l);
  return (
    <div className="flex min-h-0 flex-1 flex-col lg:flex-row">
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
          Dark arrows: the engine&apos;s own forward and left, in which the pan is drawn. Grey
          arrows: the car&apos;s, in which g is given.
        </p>
        {drawing && pan && pan.clearances.length > 0 && width > 0 && (
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
                <Fitted drawing={drawing} document={document} clearances={pan.clearances} at={at} />
              )}
            />
          </figure>
        )}
        <div className="mt-4 pb-6">
          <Button look="main" onClick={onNext}>
            On to the pan
          </Button>
        </div>
      </section>
      <aside
        aria-label="Figures of the car"
        className="border-t border-ink bg-panel lg:w-[352px] lg:shrink-0 lg:overflow-y-auto lg:border-t-0 lg:border-l"
      >
        <FigureGroup title="Engine">
          <label className="flex items-center justify-between gap-3 border-b border-hair py-1 text-[14px] text-ink-2">
            Cylinders
            <select
              value={car.cylinders ?? ""}
              onChange={(event) => {
                const { value } = event.target;
                put(
                  {
                    cylinders:
                      value === "in_line" || value === "vee" || value === "flat" ? value : null,
                  },
                  "cylinders",
                );
              }}
              className="rounded-[2px] border border-ink bg-panel px-2 py-1 text-ink"
            >
              <option value="">not said</option>
              <option value="in_line">in line</option>
              <option value="vee">vee</option>
              <option value="flat">flat</option>
            </select>
          </label>
          {one(
            "Leaned to its right",
            "car.lean_right_deg",
            car.lean_right_deg,
            "minus: to its left",
          )}
          {one("Nose higher than tail", "car.nose_up_deg", car.nose_up_deg)}
        </FigureGroup>
        <FigureGroup title="Ground">
          {car.rail_height_mm != null ? (
            <>
              {one(
                "Pan rail above the ground",
                "car.rail_height_mm",
                car.rail_height_mm,
                "at its rear face, under the crank, car on its wheels",
              )}
              {car.least_ground_mm != null ? (
                one("Wanted under the pan", "car.least_ground_mm", car.least_ground_mm)
              ) : (
                <Button
                  className="mt-2"
                  onClick={() => put({ least_ground_mm: 45 }, "wanted clearance")}
                >
                  Say how much is wanted
                </Button>
              )}
              <Ground pan={pan} />
            </>
          ) : (
            <div className="py-2 text-[14px]">
              <p className="pb-2 text-ink-2">
                Measure from the ground up to the pan rail&apos;s rear face, under the crank.
              </p>
              <Button onClick={() => put({ rail_height_mm: 200 }, "height of the rail")}>
                Put in the rail&apos;s height
              </Button>
            </div>
          )}
        </FigureGroup>
        <AroundNumbers document={document} pan={pan} onType={type} onReplace={replace} />
        <PumpNumbers document={document} onType={type} onReplace={replace} />
        <OilNumbers document={document} onType={type} onReplace={replace}>
          <p className="pt-2 text-[13px] text-ink-2">
            {away.figure} {away.unit} never come near the pickup while the engine runs.
          </p>
        </OilNumbers>
      </aside>
    </div>
  );
}
