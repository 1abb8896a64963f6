import { useState, type ReactElement } from "react";
import type { BuildDocument, Act } from "../api/queries";
import { Button } from "../parts/Button";
import { Choice } from "../parts/Choice";
import { EditFigure } from "../parts/EditFigure";
import { FigureGroup } from "../parts/FigureGroup";
import { useSettings } from "../parts/settings";
import { BOSS_KINDS, BOSS_SPECS, newBoss, type Boss, type Pan } from "./parts";
import { freeName, Records, type Spec } from "./Records";
import type { Replace, Type } from "./ZoneNumbers";
import { NOT_GIVEN } from "./ids";

interface Props {
  document: BuildDocument;
  onType: Type;
  onReplace: Replace;
}

const MARK_SPECS: readonly Spec[] = [
  { kind: "text", key: "name", label: "Name" },
  {
    kind: "figure",
    key: "level_mm",
    label: "Above the lowest point",
    note: "straight up, as in the car",
  },
];
const SCRAPER_SPECS: readonly Spec[] = [
  { kind: "text", key: "name", label: "Name" },
  {
    kind: "choice",
    key: "side",
    label: "On the crank's",
    choices: [
      ["left", "left"],
      ["right", "right"],
    ],
  },
  { kind: "figure", key: "from_x_mm", label: "From, ahead of the rear face" },
  { kind: "figure", key: "to_x_mm", label: "To" },
  { kind: "figure", key: "gap_mm", label: "Gap to the swept circle" },
];

const MADE = { unsaid: "not said", sheet: "sheet", cast: "a casting" } as const;

function Flange({
  document,
  onType,
  onReplace,
  onAct,
}: Props & { onAct: (act: Act) => void }): ReactElement {
  const { system } = useSettings();
  const metric = system === "metric";
  const [width, setWidth] = useState(metric ? "18 mm" : "3/4 in");
  const [spacing, setSpacing] = useState(metric ? "80 mm" : "3 in");
  const [hole, setHole] = useState(metric ? "7 mm" : "9/32 in");
  const { pan } = document;
  const { flange } = pan;
  const field = (label: string, value: string, set: (text: string) => void): ReactElement => (
    <label className="flex items-center justify-between gap-3 border-b border-hair py-1 text-[14px] text-ink-2">
      {label}
      <input
        value={value}
        onChange={(event) => set(event.target.value)}
        className="w-24 border-b border-dotted border-ink bg-transparent text-right font-figure text-[16px] text-ink"
      />
    </label>
  );
  if (!flange)
    return (
      <>
        <p className="py-1 text-[14px] text-ink-2">
          Lay a flange and its holes out round the rail, then move the holes to where the block has
          its threads.
        </p>
        {field("Width from the rail", width, setWidth)}
        {field("Holes at most apart", spacing, setSpacing)}
        {field("Hole", hole, setHole)}
        <Button
          className="mt-2"
          onClick={() =>
            onAct({
              kind: "flange",
              width_mm: width,
              spacing_mm: spacing,
              hole_mm: hole,
              thickness_mm: metric ? "6 mm" : "1/4 in",
            })
          }
        >
          Lay it out
        </Button>
      </>
    );
  const specs: readonly Spec[] = [
    { kind: "figure", key: "x_mm", label: "Ahead of the rear face" },
    { kind: "figure", key: "y_mm", label: "Left of the centreline" },
    { kind: "figure", key: "diameter_mm", label: "Diameter" },
  ];
  const put = (next: Pan["flange"], change: string): void =>
    onReplace({ ...document, pan: { ...pan, flange: next } }, change);
  return (
    <>
      <EditFigure
        label="Thickness"
        field="pan.flange.thickness_mm"
        value={flange.thickness_mm}
        onType={(typed) => onType(["pan.flange.thickness_mm"], typed)}
      />
      <details>
        <summary className="py-1 text-[14px]">
          {flange.bolts.length === 1 ? "1 bolt hole" : `${flange.bolts.length} bolt holes`}
        </summary>
        <Records
          records={flange.bolts.map((bolt, at) => ({ ...bolt, number: at + 1 }))}
          path="pan.flange.bolts"
          empty="No holes."
          specsOf={() => specs}
          nameOf={(bolt) => `hole ${bolt.number}`}
          additions={[
            {
              words: "Add a hole",
              make: () => ({ x_mm: 0, y_mm: 0, diameter_mm: 7, number: flange.bolts.length + 1 }),
            },
          ]}
          onType={onType}
          onPut={(bolts, change) =>
            put(
              {
                ...flange,
                bolts: bolts.map(({ x_mm, y_mm, diameter_mm }) => ({ x_mm, y_mm, diameter_mm })),
              },
              change,
            )
          }
        />
      </details>
      <Button look="bare" className="px-0 underline" onClick={() => put(null, "flange removed")}>
        Lay it out anew
      </Button>
    </>
  );
}

/** What is fitted to the pan: bosses, dipstick marks, scrapers, flange, the wall itself. */
export function FittedNumbers({
  document,
  onType,
  onReplace,
  onAct,
}: Props & { onAct: (act: Act) => void }): ReactElement {
  const { pan } = document;
  const put = (change: Partial<Pan>, words: string): void =>
    onReplace({ ...document, pan: { ...pan, ...change } }, words);
  const boss = (kind: Boss["kind"], words: string): { words: string; make: () => Boss } => ({
    words,
    make: () => newBoss(document, kind, freeName(pan.bosses, words.toLowerCase())),
  });
  return (
    <>
      <FigureGroup title="Bosses and drains">
        <Records
          records={pan.bosses}
          path="pan.bosses"
          empty="None yet: the drain plug, the dipstick, a level sensor, a turbo's drain."
          specsOf={() => BOSS_SPECS}
          nameOf={({ name, blocked }) => (blocked ? `${name}, blocked` : name)}
          additions={BOSS_KINDS.slice(0, 4).map(([kind, words]) =>
            boss(kind, words.charAt(0).toUpperCase() + words.slice(1)),
          )}
          onType={onType}
          onPut={(bosses, words) => put({ bosses }, words)}
        />
      </FigureGroup>
      <FigureGroup title="Dipstick">
        <Records
          records={pan.dip_marks}
          path="pan.dip_marks"
          empty="Note where the marks stand: they show on the litres-to-level curve."
          specsOf={() => MARK_SPECS}
          nameOf={({ name }) => `mark: ${name}`}
          additions={[
            {
              words: "Add a mark",
              make: () => ({
                name: freeName(pan.dip_marks, pan.dip_marks.length === 0 ? "full" : "low"),
                level_mm: 80,
              }),
            },
          ]}
          onType={onType}
          onPut={(dip_marks, words) => put({ dip_marks }, words)}
        />
      </FigureGroup>
      <FigureGroup title="Wall and flange">
        <Choice
          label="Made of"
          value={pan.made ?? "unsaid"}
          choices={MADE}
          onChoose={(made) => put({ made: made === "unsaid" ? null : made }, "what it is made of")}
        />
        <EditFigure
          label="Wall's thickness"
          field="pan.sheet_mm"
          value={pan.sheet_mm ?? null}
          note="gaps to keep-outs are from its outside"
          onType={(typed) => onType(["pan.sheet_mm"], typed)}
          onClear={() => put({ sheet_mm: null }, "wall's thickness not known")}
        />
        <Flange document={document} onType={onType} onReplace={onReplace} onAct={onAct} />
      </FigureGroup>
      <FigureGroup title="Crank scraper">
        <Records
          records={pan.scrapers}
          path="pan.scrapers"
          empty="None. A windage tray goes among the plates, as a level one."
          specsOf={() => SCRAPER_SPECS}
          nameOf={({ name }) => name}
          additions={[
            {
              words: "Add a scraper",
              make: (): Pan["scrapers"][number] => ({
                id: NOT_GIVEN,
                name: freeName(pan.scrapers, "scraper"),
                side: "right",
                from_x_mm: document.car.crank?.from_x_mm ?? 40,
                to_x_mm: document.car.crank?.to_x_mm ?? 400,
                gap_mm: 2,
              }),
            },
          ]}
          onType={onType}
          onPut={(scrapers, words) => put({ scrapers }, words)}
        />
      </FigureGroup>
    </>
  );
}
