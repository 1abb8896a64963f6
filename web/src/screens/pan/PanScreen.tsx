import type { UseQueryResult } from "@tanstack/react-query";
import { useMemo, useRef, useState, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import type { BuildOut, PanFigures, Slosh } from "../../api/queries";
import { gripsOf } from "../../drawing/drag";
import { Fitted } from "../../drawing/Fitted";
import { Grips } from "../../drawing/Grips";
import { Sheet } from "../../drawing/Sheet";
import { edgeFields, rectangleOf } from "../../numbers/edges";
import { Numbers } from "../../numbers/Numbers";
import { InventedNotice } from "../../numbers/InventedNotice";
import { useEdits, type EditMutation } from "../../numbers/useEdits";
import { Button } from "../../parts/Button";
import { InspectorTabs } from "../../parts/InspectorTabs";
import { Mark } from "../../parts/Mark";
import { Notice, Waiting } from "../../parts/Notice";
import { ReadOut } from "../../parts/ReadOut";
import { useSettings } from "../../parts/settings";
import { useSize } from "../../parts/size";
import { lengthAs, volumeAs } from "../../parts/units";
import { LevelCurve } from "../../plots/LevelCurve";
import { Deepen } from "./Deepen";
import { Dipped } from "./Dipped";
import { heightAt, standingAt } from "./fill";
import { HoldVolume } from "./HoldVolume";
import { Inspection } from "./Inspection";

type Attitude = "level" | "in_car";

function Checks({
  pan,
  onMend,
}: {
  pan: PanFigures;
  onMend: (check: PanFigures["checks"][number]) => void;
}): ReactElement {
  const wrong = pan.checks.filter((check) => check.state !== "good").length;
  const fixes = { turn_gate: "Turn it round", carry_to_wall: "Carry it to the wall" };
  return (
    <section aria-labelledby="checks" className="border-t border-ink px-4 py-3">
      <div className="flex items-baseline justify-between">
        <h2 id="checks" className="font-figure text-[18px] font-semibold">
          Checks on this pan
        </h2>
        <span className="font-figure text-[13px] text-ink-2">
          {wrong === 0 ? "all sound" : `${wrong} of ${pan.checks.length} to look at`}
        </span>
      </div>
      <ul>
        {pan.checks.map((check) => (
          <li key={`${check.field}${check.words}`} className="flex gap-3 py-1.5 text-[14px]">
            <Mark state={check.state} />
            <span className="min-w-0 flex-1">
              {check.words}.{" "}
              {check.fix && (
                <button
                  type="button"
                  className="font-semibold underline"
                  onClick={() => onMend(check)}
                >
                  {fixes[check.fix]}
                </button>
              )}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Fill({
  pan,
  attitude,
  litres,
  heightMm,
  onAttitude,
  onLitres,
}: {
  pan: PanFigures;
  attitude: Attitude;
  litres: number;
  heightMm: number;
  onAttitude: (attitude: Attitude) => void;
  onLitres: (litres: number) => void;
}): ReactElement {
  const drawn = useRef<HTMLDivElement>(null);
  const fill = attitude === "level" ? pan.level : pan.in_car;
  const table = () => ({
    title: `Litres to level, ${attitude === "level" ? "rail level" : "as in the car"}`,
    headings: ["in the pan [L]", "above the lowest point [mm]"],
    rows: fill.curve_l_mm,
  });
  return (
    <section aria-labelledby="fill" className="px-4 pt-2">
      <div className="flex items-center justify-between gap-2">
        <h2 id="fill" className="font-figure text-[18px] font-semibold">
          Litres to level
        </h2>
        <div role="group" aria-label="How the engine stands" className="flex gap-2 font-figure">
          {(
            [
              ["level", "rail level"],
              ["in_car", "as in the car"],
            ] as const
          ).map(([value, label]) => (
            <button
              key={value}
              type="button"
              aria-pressed={attitude === value}
              onClick={() => onAttitude(value)}
              className={`border-b-2 text-[14px] ${attitude === value ? "border-ink font-semibold" : "border-transparent text-ink-2"}`}
            >
              {label}
            </button>
          ))}
        </div>
        <ReadOut name="Litres to level" table={table} drawing={drawn} />
      </div>
      <div ref={drawn} className="flex justify-center">
        <LevelCurve
          fill={fill}
          dips={pan.dips}
          marks={attitude === "in_car" ? pan.marks : []}
          litres={litres}
          heightMm={heightMm}
          width={300}
          height={210}
          onLitres={onLitres}
        />
      </div>
      <p className="pb-2 text-[13px] text-ink-2">× poured and dipped · line from the drawing</p>
    </section>
  );
}

/** The pan to scale from its measurements, what it holds, and whether it agrees with itself. */
export function PanScreen({
  build,
  slosh,
  pan,
  edit,
  onNext,
}: {
  build: BuildOut;
  slosh: UseQueryResult<Slosh>;
  pan: UseQueryResult<PanFigures>;
  edit: EditMutation;
  onNext: () => void;
}): ReactElement {
  const { system, units } = useSettings();
  const [box, { width, height }] = useSize();
  const sheet = useRef<HTMLDivElement>(null);
  const [tab, setTab] = useState<"fill" | "as_it_came" | "numbers">("fill");
  const [attitude, setAttitude] = useState<Attitude>("in_car");
  const [around, setAround] = useState(true);
  const [picked, setPicked] = useState<number | null>(null);
  const drawing = slosh.data?.drawing ?? null;
  const figures = pan.data;
  const shown = useMemo(
    () =>
      drawing && attitude === "level" ? { ...drawing, lean_right_deg: 0, nose_up_deg: 0 } : drawing,
    [drawing, attitude],
  );
  const { fault, type, attempt, replace } = useEdits(edit);
  const error = slosh.error ?? pan.error;
  if (!shown || !figures)
    return (
      <Waiting
        error={error ? wordsOf(error) : null}
        what="the pan"
        onRetry={() => {
          void slosh.refetch();
          void pan.refetch();
        }}
      />
    );
  const { document } = build;
  const grips = gripsOf(
    document,
    { x: document.pickup.x_mm, y: document.pickup.y_mm },
    (zone) => rectangleOf(zone) && { ...rectangleOf(zone) },
    (index, side) => edgeFields(document.pan.zones, index, side),
  );
  const fill = attitude === "level" ? figures.level : figures.in_car;
  const litres = picked ?? shown.oil_in_pan_l;
  const heightMm = heightAt(fill, litres);
  const inPan = volumeAs(units, system, litres);
  const above = lengthAs(units, system, heightMm);
  const toRail = volumeAs(units, system, shown.capacity_to_rail_l);
  const words = `${inPan.figure} ${inPan.unit} standing ${attitude === "level" ? "with the rail level" : "as in the car"}`;
  return (
    <div className="flex min-h-0 flex-1 flex-col lg:flex-row">
      <section aria-label="The pan to scale" className="flex min-w-0 flex-1 flex-col">
        <div className="flex flex-wrap items-start justify-between gap-x-4 gap-y-2 px-6 pt-3">
          <div>
            <h1 className="font-figure text-[22px] leading-7 font-semibold">
              Pan, drawn from your measurements
            </h1>
            <p className="font-figure text-[14px] text-ink-2">
              {words} · {toRail.figure} {toRail.unit} to the rail · sheet not to scale
            </p>
          </div>
          <div className="flex items-center gap-3">
            {figures.clearances.length > 0 && (
              <label className="flex items-center gap-2 text-[14px]">
                <input
                  type="checkbox"
                  checked={around}
                  onChange={(event) => setAround(event.target.checked)}
                  className="size-4 accent-[var(--ink)]"
                />
                what is round it
              </label>
            )}
            <ReadOut name="Pan, drawn to scale" drawing={sheet} />
            <Button onClick={onNext}>On to the loads</Button>
          </div>
        </div>
        {build.invented.includes("pan") && (
          <div className="px-6">
            <InventedNotice what="pan" />
          </div>
        )}
        {error && (
          <div className="px-6 pt-2">
            <Notice kind="bad" title="This is the last pan that could be drawn">
              {wordsOf(error)}
            </Notice>
          </div>
        )}
        <div ref={box} className="min-h-[420px] flex-1 overflow-hidden max-sm:overflow-visible">
          <div ref={sheet} data-fill-l={litres} data-height-mm={heightMm.toFixed(2)}>
            {width > 0 && (
              <Sheet
                drawing={shown}
                oil={standingAt(fill, litres)}
                airy={false}
                words={words}
                callout={[
                  `${inPan.figure} ${inPan.unit} stand ${above.figure} ${above.unit}`,
                  "above the lowest point",
                ]}
                width={width}
                height={Math.max(height, 420)}
                only={null}
                over={(at) => (
                  <>
                    <Fitted
                      drawing={shown}
                      document={build.document}
                      clearances={around ? figures.clearances : []}
                      at={at}
                    />
                    <Grips
                      drawing={shown}
                      at={at}
                      grips={grips}
                      onMove={(moved) =>
                        attempt({
                          kind: "figures",
                          system,
                          figures: moved.flatMap(({ fields, mm }) =>
                            fields.map((field) => ({ field, typed: `${mm} mm` })),
                          ),
                        })
                      }
                    />
                  </>
                )}
              />
            )}
          </div>
        </div>
      </section>
      <InspectorTabs
        shown={tab}
        onShow={setTab}
        pages={[
          {
            key: "fill",
            label: "Fill and checks",
            content: (
              <>
                {fault && (
                  <div className="p-3">
                    <Notice kind="bad" title="Not saved">
                      {fault}
                    </Notice>
                  </div>
                )}
                <Fill
                  pan={figures}
                  attitude={attitude}
                  litres={litres}
                  heightMm={heightMm}
                  onAttitude={setAttitude}
                  onLitres={setPicked}
                />
                <Checks
                  pan={figures}
                  onMend={({ fix, field }) => {
                    if (fix) attempt({ kind: "mend", fix, field });
                  }}
                />
                <Dipped
                  document={build.document}
                  pan={figures}
                  litres={litres}
                  heightMm={heightMm}
                  onType={type}
                  onReplace={replace}
                />
                <HoldVolume
                  build={build}
                  capacityL={shown.capacity_to_rail_l}
                  onDeepen={(typed, zones) => attempt({ kind: "deepen", typed, zones, system })}
                />
                <Deepen
                  build={build}
                  onEdit={(change) => edit.mutateAsync(change).finally(() => edit.reset())}
                  onType={type}
                  onReplace={replace}
                />
              </>
            ),
          },
          {
            key: "as_it_came",
            label: "As it came",
            content: <Inspection build={build} onReplace={replace} />,
          },
          {
            key: "numbers",
            label: "Numbers",
            content: <Numbers build={build} edit={edit} drawing={drawing} lead="zones" />,
          },
        ]}
      />
    </div>
  );
}
