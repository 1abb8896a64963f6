import type { Fit, Means, Offered, Place, PlaceState, Round } from "../../api/fit";
import type { Waiting } from "../../offline/queue";

/** A place as this device knows it. */
export interface PlaceNow extends Place {
  isWaiting: boolean;
}

export interface FitNow {
  rounds: Round[];
  /** Worst first. */
  places: PlaceNow[];
  open: PlaceNow[];
}

const ORDER: readonly PlaceState[] = ["touches", "tight", "not_looked", "accepted", "sound"];

/** How a place stands by what was found last, in the round that goes on. */
export function stateOf(place: Place, round: number): PlaceState {
  const last = place.found.at(-1);
  if (!last || last.round !== round) return "not_looked";
  if (place.accepted !== "") return "accepted";
  if (last.touches) return "touches";
  return last.gap_mm === null || last.gap_mm >= place.wanted_mm - 1e-6 ? "sound" : "tight";
}

const short = (place: Place): number => {
  const last = place.found.at(-1);
  const gap = last ? last.gap_mm : place.forecast_mm;
  return (gap ?? 9900) - place.wanted_mm;
};

const newPlace = (row: Extract<Offered, { kind: "place_said" }>, number: number): PlaceNow => ({
  id: row.place,
  number,
  name: row.name,
  wanted_mm: row.wanted_mm,
  forecast_mm: null,
  is_said: true,
  rocks: false,
  at_mm: row.at_mm ?? null,
  to_mm: null,
  state: "not_looked",
  accepted: "",
  found: [],
  correction: null,
  isWaiting: true,
});

function begun(fit: Fit, rounds: Round[], row: Waiting<Offered>): Round[] {
  if (row.entry.kind !== "round_begun") return rounds;
  const means: Means = row.entry.means;
  const [words, caution] = fit.means[means] as [string, string];
  const one: Round = {
    number: rounds.length + 1,
    means,
    means_words: words,
    caution,
    car_on: row.entry.car_on,
    words: row.entry.words,
    by: row.by,
    at: row.at,
    closed: null,
  };
  return [...rounds, one];
}

function after(place: PlaceNow, row: Waiting<Offered>, round: number): PlaceNow {
  const { entry } = row;
  switch (entry.kind) {
    case "found":
      return {
        ...place,
        isWaiting: true,
        accepted: "",
        correction: null,
        found: [
          ...place.found.filter((each) => each.round !== round),
          {
            round,
            touches: entry.touches,
            gap_mm: entry.touches ? 0 : (entry.gap_mm ?? null),
            done: entry.done,
            photos: entry.photos,
            by: row.by,
            at: row.at,
          },
        ],
      };
    case "accepted":
      return { ...place, isWaiting: true, accepted: entry.why };
    case "wanted":
      return { ...place, isWaiting: true, wanted_mm: entry.wanted_mm };
    default:
      return place;
  }
}

/** A test fit with what waits on this device to be sent. */
export function fitNow(fit: Fit, waiting: readonly Waiting<Offered>[]): FitNow {
  let rounds = fit.rounds;
  let places: PlaceNow[] = fit.places.map((place) => ({ ...place, isWaiting: false }));
  for (const row of waiting) {
    if (row.refused !== null) continue;
    const { entry } = row;
    rounds = begun(fit, rounds, row);
    if (entry.kind === "place_said" && !places.some(({ id }) => id === entry.place))
      places = [...places, newPlace(entry, places.length + 1)];
    if (entry.kind === "dropped") places = places.filter(({ id }) => id !== entry.place);
    if (entry.kind === "round_closed")
      rounds = rounds.map((each, at) =>
        at === rounds.length - 1 ? { ...each, closed: row.at } : each,
      );
    if ("place" in entry && rounds.length > 0)
      places = places.map((place) =>
        place.id === entry.place ? after(place, row, rounds.length) : place,
      );
  }
  const stood = places
    .map((place) => ({ ...place, state: stateOf(place, rounds.length) }))
    .sort(
      (one, other) =>
        ORDER.indexOf(one.state) - ORDER.indexOf(other.state) || short(one) - short(other),
    );
  return { rounds, places: stood, open: stood.filter(({ state }) => ORDER.indexOf(state) < 3) };
}
