import type { Offered, Place, PlaceState } from "../../api/fit";
import type { MarkState } from "../../parts/Mark";
import { lengthAs, type System, type Units } from "../../parts/units";
import type { FitNow, PlaceNow } from "./standing";

export const MARKS: Readonly<Record<PlaceState, MarkState>> = {
  touches: "bad",
  tight: "caution",
  sound: "good",
  accepted: "good",
  not_looked: "nothing",
};
export const STATES: Readonly<Record<PlaceState, string>> = {
  touches: "touches",
  tight: "tight",
  sound: "sound",
  accepted: "accepted",
  not_looked: "not looked at",
};

const count = (many: number, one: string, more: string): string =>
  many === 1 ? `one ${one}` : `${many} ${more}`;

/** The round in a sentence: what touches, what is tight, what is left to look at. */
export function roundSentence({ rounds, places }: FitNow): string {
  const round = rounds.at(-1);
  if (!round) return "Nothing was offered up yet";
  if (places.length === 0) return `Round ${round.number}: no place to look at yet`;
  const of = (state: PlaceState): PlaceNow[] => places.filter((place) => place.state === state);
  const [touch, tight, left] = [of("touches"), of("tight"), of("not_looked")];
  const parts = [
    ...(touch.length > 0
      ? [touch.length === 1 ? `${touch[0]?.name} touches` : count(touch.length, "", "places touch")]
      : []),
    ...(tight.length > 0
      ? [tight.length === 1 ? `tight at ${tight[0]?.name}` : `${tight.length} tight`]
      : []),
    ...(left.length > 0 ? [`${left.length} to look at`] : []),
  ];
  return `Round ${round.number}: ${parts.length > 0 ? parts.join(", ") : round.closed ? "closed, all sound" : "all sound"}`;
}

/** A gap as it is said. */
export function gapWords(
  found: { touches: boolean; gap_mm: number | null } | undefined,
  units: Units,
  system: System,
): string {
  if (!found) return "";
  if (found.touches) return "touched";
  if (found.gap_mm === null) return "looked at";
  const { figure, unit } = lengthAs(units, system, found.gap_mm);
  return `${figure} ${unit}`;
}

/** What to do about a place, in a sentence or two. */
export function nextWords(place: Place, rocks: number, units: Units, system: System): string {
  const last = place.found.at(-1);
  const said = (mm: number): string => {
    const { figure, unit } = lengthAs(units, system, mm);
    return `${figure} ${unit}`;
  };
  if (!last || place.state === "not_looked")
    return place.forecast_mm === null
      ? "Offer the part up and measure here."
      : `The figures of the build say ${said(place.forecast_mm)}${place.rocks ? ", the engine's rocking taken off" : ""}.`;
  if (place.state === "accepted") return `Accepted: ${place.accepted}.`;
  if (last.touches)
    return "Take it out, make room, offer it up again. As little as possible: trim, then move, then cut.";
  const gap = last.gap_mm ?? place.wanted_mm;
  const moving = gap - rocks;
  const rocking =
    place.id.startsWith("ground") || place.rocks
      ? ""
      : moving > 0
        ? ` The engine rocks ${said(rocks)} on its mounts, so that is ${said(moving)} then.`
        : ` The engine rocks ${said(rocks)} on its mounts: it touches then.`;
  if (place.state === "tight")
    return `${said(place.wanted_mm - gap)} short, cold and still.${rocking} Make room, or accept it with a word why.`;
  return `As wanted, cold and still.${rocking}`;
}

/** What was done to make room, as it is said most. */
export const DONE = [
  "trimmed",
  "hammered 2 to 3 mm",
  "spacer in",
  "moved",
  "ground off",
  "sleeve on",
  "nothing needed",
] as const;

/** What was entered, in a few words. */
export function entryWords(entry: Offered): string {
  switch (entry.kind) {
    case "round_begun":
      return "a round begun";
    case "round_closed":
      return "the round closed";
    case "found":
      return entry.touches
        ? "a touch"
        : `a gap${entry.gap_mm === null ? "" : `, ${entry.gap_mm} mm`}`;
    case "place_said":
      return entry.name;
    case "wanted":
      return "a gap that is wanted";
    case "accepted":
      return "a place accepted";
    case "dropped":
      return "a place dropped";
  }
}
