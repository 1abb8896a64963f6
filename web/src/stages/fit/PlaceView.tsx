import { dayWords } from "../../parts/days";
import { useState, type ReactElement } from "react";
import type { Fit, Offered } from "../../api/fit";
import { photoAddress } from "../../api/photos";
import { useBuildView } from "../../document/BuildContext";
import { Button } from "../../parts/Button";
import { FileButton } from "../../parts/FileButton";
import { Mark } from "../../parts/Mark";
import { useSettings } from "../../parts/settings";
import { lengthAs } from "../../parts/units";
import { Reason } from "../../parts/Reason";
import type { PlaceNow } from "./standing";
import { Stepper } from "./Stepper";
import { DONE, gapWords, MARKS, nextWords, STATES } from "./words";

/** What the forecast has nearer or farther than it is, and the keep-out moved. */
function Correct({ place }: { place: PlaceNow }): ReactElement | null {
  const { edit } = useBuildView();
  const { units, system } = useSettings();
  const right = place.correction;
  if (!right) return null;
  const { figure, unit } = lengthAs(units, system, Math.abs(right.nearer_mm));
  return (
    <div className="my-2 border border-ink bg-panel p-3 text-[15px]" data-correction={place.id}>
      <p>
        The {right.name} is {figure} {unit} {right.nearer_mm > 0 ? "nearer" : "farther off"} than it
        was measured. Move it on Car, and every clearance follows.
      </p>
      <Button
        className="mt-2 min-h-11"
        disabled={edit.isPending}
        onClick={() =>
          edit.mutate({
            kind: "act",
            act: {
              kind: "figures",
              figures: right.figures.map(([field, value]) => ({
                field,
                value,
              })),
            },
            system: "metric",
          })
        }
      >
        Move the {right.name}
      </Button>
    </div>
  );
}

function History({ place }: { place: PlaceNow }): ReactElement {
  const { units, system } = useSettings();
  return (
    <dl className="grid grid-cols-3 gap-2 border-y border-hair py-2 font-figure">
      <div>
        <dt className="text-[14px] text-ink-2">wanted</dt>
        <dd className="text-[19px] font-semibold">
          {gapWords({ touches: false, gap_mm: place.wanted_mm }, units, system)}
        </dd>
      </div>
      {place.found.slice(-2).map((each) => (
        <div key={each.round}>
          <dt className="text-[14px] text-ink-2">round {each.round}</dt>
          <dd className="flex items-center gap-1 text-[19px] font-semibold">
            {each.touches && <Mark state="bad" size={16} />}
            {gapWords(each, units, system)}
          </dd>
          <dd className="font-sans text-[12px] text-ink-2">
            {each.by}, {dayWords(each.at)}
          </dd>
        </div>
      ))}
      {place.found.length === 0 && place.forecast_mm !== null && (
        <div>
          <dt className="text-[14px] text-ink-2">forecast</dt>
          <dd className="text-[19px] font-semibold">
            {gapWords({ touches: false, gap_mm: Math.max(0, place.forecast_mm) }, units, system)}
          </dd>
        </div>
      )}
    </dl>
  );
}

/** What is found at a place now, before it is kept. */
export interface Draft {
  gap: number;
  touches: boolean;
  done: string;
}

export const draftOf = (place: PlaceNow): Draft => {
  const last = place.found.at(-1);
  return {
    gap: last?.gap_mm ?? Math.max(0, Math.round(place.forecast_mm ?? place.wanted_mm)),
    touches: place.state === "touches",
    done: place.state === "not_looked" ? "" : (last?.done ?? ""),
  };
};

/** One place: its gap stepped or typed, a touch, what was done, photos, what is next. */
export function PlaceView({
  fit,
  place,
  draft,
  buildId,
  hasRound,
  onDraft,
  onEnter,
}: {
  fit: Fit;
  place: PlaceNow;
  draft: Draft;
  buildId: number;
  hasRound: boolean;
  onDraft: (draft: Draft) => void;
  onEnter: (entry: Offered, photos?: Blob[]) => void;
}): ReactElement {
  const { units, system } = useSettings();
  const [asks, setAsks] = useState(false);
  const short = place.wanted_mm - draft.gap;
  const said = (mm: number): string => {
    const { figure, unit } = lengthAs(units, system, mm);
    return `${figure} ${unit}`;
  };
  const words = draft.touches
    ? "it touches"
    : short > 0.05
      ? `${said(short)} under wanted`
      : "as wanted";
  const photos = place.found.flatMap(({ photos: tokens }) => tokens);
  return (
    <section aria-label="The place" className="flex flex-col gap-2 px-4 py-3">
      <div>
        <h2 className="flex items-center gap-2 font-figure text-[22px] leading-tight font-semibold">
          <Mark state={MARKS[place.state]} size={22} />
          {place.number} · {place.name}
        </h2>
        <p className="text-[14px] text-ink-2">
          {STATES[place.state]}
          {place.isWaiting ? ", not sent yet" : ""}
        </p>
      </div>
      <History place={place} />
      {hasRound && (
        <>
          <Stepper
            gap={draft.touches ? 0 : draft.gap}
            words={words}
            onGap={(gap) => onDraft({ ...draft, gap, touches: false })}
          />
          <div className="grid grid-cols-2 gap-2 [&>span>button]:w-full">
            <Button
              look="bad"
              aria-pressed={draft.touches}
              className={`min-h-[60px] font-figure !text-[19px] ${draft.touches ? "bg-bad-wash" : ""}`}
              onClick={() => onDraft({ ...draft, touches: !draft.touches })}
            >
              <Mark state="bad" size={20} /> It touches
            </Button>
            <FileButton
              accept="image/*"
              label={`A photo of ${place.name}`}
              onFile={(photo) => onEnter(findingOf(place, draft), [photo])}
            >
              <span className="flex min-h-[50px] items-center px-3 font-figure text-[19px]">
                Photo{photos.length > 0 ? `, ${photos.length}` : ""}
              </span>
            </FileButton>
          </div>
          <p className="font-figure text-[16px] font-semibold">What was done</p>
          <div className="flex flex-wrap gap-2">
            {DONE.map((done) => (
              <Button
                key={done}
                aria-pressed={draft.done === done}
                look={draft.done === done ? "main" : "plain"}
                className="min-h-11 !text-[16px]"
                onClick={() => onDraft({ ...draft, done: draft.done === done ? "" : done })}
              >
                {done}
              </Button>
            ))}
            <input
              aria-label="What was done, in words"
              placeholder="or say it"
              maxLength={500}
              value={(DONE as readonly string[]).includes(draft.done) ? "" : draft.done}
              onChange={(event) => onDraft({ ...draft, done: event.target.value })}
              className="min-h-11 min-w-[130px] flex-1 border border-ink bg-panel px-2 text-[16px]"
            />
          </div>
        </>
      )}
      {photos.length > 0 && (
        <div className="flex flex-wrap gap-1">
          {photos.map((token) => (
            <a key={token} href={photoAddress(buildId, token)} target="_blank" rel="noreferrer">
              <img
                src={photoAddress(buildId, token)}
                alt={`Photo of ${place.name}`}
                className="h-16 w-20 border border-ink object-cover"
              />
            </a>
          ))}
        </div>
      )}
      <p className="text-[15px]">
        <strong className="font-figure">Next.</strong>{" "}
        {nextWords(place, fit.rocks_mm, units, system)}
      </p>
      <Correct place={place} />
      <p className="flex flex-wrap gap-x-5 text-[15px]">
        {(place.state === "tight" || place.state === "touches") && (
          <button type="button" className="min-h-9 underline" onClick={() => setAsks(true)}>
            Accept it, and say why
          </button>
        )}
        <button
          type="button"
          className="min-h-9 underline"
          onClick={() => onEnter({ kind: "dropped", place: place.id })}
        >
          Not a place to look at
        </button>
      </p>
      {asks && (
        <Reason
          title="Accept it"
          words={`${place.name}: ${gapWords(place.found.at(-1), units, system)}, ${said(place.wanted_mm)} wanted. Whoever accepts it says why, and that stays.`}
          least={3}
          button="Accept it"
          onSay={(why) => onEnter({ kind: "accepted", place: place.id, why })}
          onClose={() => setAsks(false)}
        />
      )}
    </section>
  );
}

/** The entry of what is found. */
export const findingOf = (place: PlaceNow, draft: Draft): Offered => ({
  kind: "found",
  place: place.id,
  touches: draft.touches,
  gap_mm: draft.touches ? null : draft.gap,
  done: draft.done,
  photos: [],
});
