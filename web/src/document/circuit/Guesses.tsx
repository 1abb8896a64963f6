import { useState, type ReactElement } from "react";
import { wordsOf, type Schemas } from "../../api/client";
import { useGuesses } from "../../api/queries";
import { Notice } from "../../parts/Notice";
import { useBuildView } from "../BuildContext";

type Guess = Schemas["SwingOut"];

/** From one figure to another, where they differ as they are shown. */
const between = (
  words: string,
  ends: readonly [number, number],
  unit: string,
  places: number,
): string[] => {
  const [low, high] = ends.map((end) => end.toFixed(places));
  return low === high ? [] : [`${words} ${low} to ${high} ${unit}`];
};

/** What one guess moves from the low end of its likely range to the high one. */
function Row({ guess }: { guess: Guess }): ReactElement {
  const [low, high] = guess.lowest_share;
  const moved = [
    ...between("dry", guess.dry_s, "s", 1),
    ...between("lowest", [100 * low, 100 * high], "% of usual", 0),
    ...between("holds", guess.held_l, "L", 1),
  ];
  return (
    <li className="border-t border-hair py-1 text-[14px]" title={guess.source}>
      <span className="block">
        {guess.words}: {guess.likely} {guess.unit}, likely {guess.low} to {guess.high}
      </span>
      <span className="block font-figure text-[13px] text-ink-2">{moved.join(" · ")}</span>
    </li>
  );
}

/** What nobody measured, what moves the forecast most first: so that one measures what matters. */
export function Guesses(): ReactElement {
  const { build } = useBuildView();
  const [isOpen, setOpen] = useState(false);
  const { data: told, error, isFetching } = useGuesses(build, isOpen);
  const moving = told?.guesses.filter(({ moves }) => moves) ?? [];
  const rest = (told?.guesses.length ?? 0) - moving.length;
  return (
    <details
      className="border-b border-hair"
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="py-1.5 text-[14px] font-medium">
        What is guessed, and what it moves
      </summary>
      <div className="pb-2 pl-3" aria-busy={isFetching}>
        {error ? (
          <Notice kind="bad" title="What the guesses move could not be worked out">
            {wordsOf(error)}
          </Notice>
        ) : !told ? (
          <p className="py-1 text-[14px] text-ink-2">Trying each guess at both ends…</p>
        ) : told.guesses.length === 0 ? (
          <p className="py-1 text-[14px] text-ink-2">
            Import a lap: what a guess moves is told over a lap.
          </p>
        ) : (
          <>
            <ul aria-label="Guesses that move the forecast">
              {moving.map((guess) => (
                <Row key={guess.words} guess={guess} />
              ))}
            </ul>
            <p className="pt-1 text-[13px] text-ink-2">
              {rest} more move dry time by less than 0.1 s and pressure by less than a twentieth.{" "}
              {told.model}
            </p>
          </>
        )}
      </div>
    </details>
  );
}
