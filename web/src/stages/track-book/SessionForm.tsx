import { today } from "../../parts/days";
import { useState, type ReactElement } from "react";
import type { SessionEntry, SessionRow } from "../../api/book";
import { newId } from "../../offline/queue";
import { Button } from "../../parts/Button";
import { useFormUnits, type Settings } from "../../parts/settings";
import { exactlyShown, shownAs, storedFrom } from "../../parts/units";

type Typed = Record<
  | "on"
  | "circuit"
  | "tyres"
  | "laps"
  | "hours"
  | "oil"
  | "level_before_mm"
  | "level_after_mm"
  | "added_l"
  | "can_ml"
  | "hottest_c"
  | "ambient_c"
  | "lowest_bar"
  | "words",
  string
>;
type Key = keyof Typed;
type FigureKey = Exclude<Key, "on" | "circuit" | "tyres" | "oil" | "words">;

const FIGURES: readonly (readonly [FigureKey, string, string])[] = [
  ["laps", "Laps", ""],
  ["hours", "Engine ran", "h"],
  ["level_before_mm", "Level before", "mm"],
  ["level_after_mm", "Level after", "mm"],
  ["added_l", "Oil poured in", "L"],
  ["can_ml", "Out of the catch can", "ml"],
  ["hottest_c", "Oil, hottest", "°C"],
  ["ambient_c", "Outside", "°C"],
  ["lowest_bar", "Lowest pressure seen", "bar"],
];

type Shown = Pick<Settings, "units" | "system">;

/** A kept figure as it stands in the form, in the units shown. */
function text(key: Key, value: number | null | undefined, { units, system }: Shown): string {
  if (value === null || value === undefined) return "";
  return system === "metric" ? String(value) : exactlyShown(units, key, system, value).figure;
}

/** What is in the form of a session that was written, or of a new one. */
export function typedOf(
  session: SessionRow | null,
  before: SessionRow | null,
  shown: Shown,
): Typed {
  const figures = Object.fromEntries(
    FIGURES.map(([key]) => [key, text(key, session?.[key], shown)]),
  ) as Record<FigureKey, string>;
  return {
    ...figures,
    on: session?.on ?? today(),
    circuit: session?.circuit ?? before?.circuit ?? "",
    tyres: session?.tyres ?? before?.tyres ?? "",
    oil: session?.oil ?? before?.oil ?? "",
    words: session?.words ?? "",
  };
}

const figure = (typed: string): number | null | undefined => {
  if (typed.trim() === "") return null;
  const value = Number(typed.replace(",", "."));
  return Number.isFinite(value) && value >= -40 ? value : undefined;
};

/** That an engine runs in one session [h], as the server takes it. */
const MOST_HOURS = 48;

/** The session as it is kept, or what keeps it from being, as its button says it. */
export function sessionOf(
  typed: Typed,
  id: string,
  rest: Pick<SessionEntry, "weather" | "dipped" | "photos">,
  shown: Shown,
  /** As it was written before: what is typed as it was stays as it was, to the last digit. */
  session: SessionRow | null = null,
): SessionEntry | string {
  const read: Partial<Record<FigureKey, number | null>> = {};
  for (const [key, label] of FIGURES) {
    const value = figure(typed[key]);
    if (value === undefined) return `${label} cannot be read`;
    const was = session?.[key] ?? null;
    const isAsItWas = typed[key] === text(key, was, shown);
    if (isAsItWas || value === null) read[key] = value === null ? null : was;
    else read[key] = storedFrom(shown.units, key, shown.system, value);
  }
  if (typed.circuit.trim() === "") return "Circuit is still to be filled in";
  if (read.hours === null || read.hours === undefined) return "Engine ran is still to be filled in";
  if (read.hours <= 0 || read.hours > MOST_HOURS)
    return `Engine ran: more than 0, at most ${MOST_HOURS} h`;
  const optional = (key: FigureKey): number | null => read[key] ?? null;
  return {
    kind: "session",
    id,
    on: typed.on,
    circuit: typed.circuit.trim(),
    tyres: typed.tyres.trim(),
    oil: typed.oil.trim(),
    laps: Math.round(read.laps ?? 0),
    hours: read.hours,
    level_before_mm: optional("level_before_mm"),
    level_after_mm: optional("level_after_mm"),
    added_l: read.added_l ?? 0,
    can_ml: optional("can_ml"),
    hottest_c: optional("hottest_c"),
    ambient_c: optional("ambient_c"),
    lowest_bar: optional("lowest_bar"),
    words: typed.words.trim(),
    ...rest,
  };
}

const WEATHER = ["dry", "damp", "wet"] as const;

const field = "flex flex-col text-[14px] text-ink-2";
const input = "min-h-11 w-full border border-ink bg-panel px-2 text-[16px] text-ink";

/** What was measured, each with its unit; one that cannot be read is marked. */
function Figures({
  typed,
  shown: { units, system },
  onType,
}: {
  typed: Typed;
  shown: Shown;
  onType: (key: Key, value: string) => void;
}): ReactElement {
  const unitOf = (key: FigureKey, unit: string): string =>
    shownAs(units, key, system, 0)?.unit ?? unit;
  return (
    <>
      {FIGURES.map(([key, label, unit]) => (
        <label key={key} className={field}>
          {label}
          {unit ? `, ${unitOf(key, unit)}` : ""}
          <input
            value={typed[key]}
            inputMode="decimal"
            aria-invalid={figure(typed[key]) === undefined}
            onChange={(event) => onType(key, event.target.value)}
            className={input}
          />
        </label>
      ))}
    </>
  );
}

/** A session written down: at the pit wall, with one thumb. */
export function SessionForm({
  session,
  before,
  isDry,
  onKeep,
  onLeave,
}: {
  /** One that is written anew; null: a new one. */
  session: SessionRow | null;
  /** The last one: its circuit, tyres and oil are likely the same. */
  before: SessionRow | null;
  /** A dry sump: its levels are the tank's. */
  isDry: boolean;
  onKeep: (session: SessionEntry, photos: Blob[]) => void;
  onLeave: () => void;
}): ReactElement {
  const shown = useFormUnits();
  const [typed, setTyped] = useState(() => typedOf(session, before, shown));
  const [weather, setWeather] = useState<(typeof WEATHER)[number]>(session?.weather ?? "dry");
  const [dipped, setDipped] = useState<"cold" | "hot">(session?.dipped ?? "cold");
  const [photo, setPhoto] = useState<File | null>(null);
  const id = session?.id ?? "";
  const photos = session?.photos ?? [];
  const kept = { weather, dipped, photos };
  const made = sessionOf(typed, id || "new", kept, shown, session);
  const put = (key: Key, value: string): void => setTyped({ ...typed, [key]: value });
  return (
    <form
      aria-label="A session"
      className="flex flex-col gap-2 px-4 py-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (typeof made === "string") return;
        const own = id || `s${newId().replaceAll("-", "").slice(0, 12)}`;
        onKeep({ ...made, id: own }, photo ? [photo] : []);
      }}
    >
      <h2 className="font-figure text-[20px] font-semibold">
        {session ? "The session, written anew" : "A new session"}
      </h2>
      <div className="grid grid-cols-2 gap-2">
        <label className={field}>
          Day
          <input
            type="date"
            value={typed.on}
            onChange={(event) => put("on", event.target.value)}
            className={input}
          />
        </label>
        <label className={field}>
          Track
          <select
            value={weather}
            onChange={(event) => setWeather(event.target.value as typeof weather)}
            className={input}
          >
            {WEATHER.map((each) => (
              <option key={each}>{each}</option>
            ))}
          </select>
        </label>
        <label className={`${field} col-span-2`}>
          Circuit
          <input
            value={typed.circuit}
            maxLength={80}
            onChange={(event) => put("circuit", event.target.value)}
            className={input}
          />
        </label>
        <Figures {...{ typed, shown }} onType={put} />
        {isDry && (
          <p className="col-span-2 text-[13px] text-ink-2">
            A dry sump: both levels are over the tank&apos;s floor, looked at in the same way.
          </p>
        )}
        <label className={field}>
          Dipped
          <select
            value={dipped}
            onChange={(event) => setDipped(event.target.value as typeof dipped)}
            className={input}
          >
            <option value="cold">cold</option>
            <option value="hot">hot, just stopped</option>
          </select>
        </label>
        <label className={field}>
          Tyres
          <input
            value={typed.tyres}
            maxLength={80}
            onChange={(event) => put("tyres", event.target.value)}
            className={input}
          />
        </label>
        <label className={field}>
          Oil, grade and batch
          <input
            value={typed.oil}
            maxLength={80}
            onChange={(event) => put("oil", event.target.value)}
            className={input}
          />
        </label>
        <label className={`${field} col-span-2`}>
          What the driver says
          <textarea
            value={typed.words}
            rows={3}
            maxLength={2000}
            onChange={(event) => put("words", event.target.value)}
            className={`${input} py-1`}
          />
        </label>
        <label className={`${field} col-span-2`}>
          A photo
          <input
            type="file"
            accept="image/*"
            onChange={(event) => setPhoto(event.target.files?.[0] ?? null)}
          />
        </label>
      </div>
      <p className="text-[13px] text-ink-2">
        Levels straight up from the lowest point inside, level ground, engine stopped.
      </p>
      <div className="flex gap-2">
        <Button className="min-h-[60px] w-[96px] font-figure !text-[17px]" onClick={onLeave}>
          Leave it
        </Button>
        <Button
          look="main"
          type="submit"
          disabled={typeof made === "string"}
          className="min-h-[60px] flex-1 font-figure !text-[19px]"
        >
          {typeof made === "string" ? made : "Write it down"}
        </Button>
      </div>
    </form>
  );
}
