import { useState, type ReactElement } from "react";
import { fitPage, type Fit, type Means, type Offered } from "../../api/fit";
import { useBuildView } from "../../document/BuildContext";
import { Button } from "../../parts/Button";
import { Mark } from "../../parts/Mark";
import { SayPlace } from "./SayPlace";
import type { FitNow } from "./standing";
import { dayWords } from "../../parts/days";

type CarOn = "wheels" | "stands";
const ON: Readonly<Record<CarOn, string>> = { stands: "on stands", wheels: "on its wheels" };

/** The round: what is offered up and what that hides, the next one, closing, paper. */
export function RoundPage({
  fit,
  now,
  onEnter,
}: {
  fit: Fit;
  now: FitNow;
  onEnter: (entry: Offered) => void;
}): ReactElement {
  const { build } = useBuildView();
  const last = now.rounds.at(-1);
  const [means, setMeans] = useState<Means>(last?.means ?? "cardboard");
  const [carOn, setCarOn] = useState<CarOn>("stands");
  const caution = fit.means[means]?.[1];
  const left = now.open.length;
  return (
    <section aria-label="Rounds" className="flex flex-col gap-3 px-4 py-3">
      <ul>
        {now.rounds.map((round) => (
          <li key={round.number} className="border-b border-hair py-1 text-[15px]">
            <strong className="font-figure">Round {round.number}</strong>, {dayWords(round.at)},
            with {round.means_words}, car {ON[round.car_on as CarOn]}; {round.by}
            {round.closed ? `, closed ${dayWords(round.closed)}` : ""}
          </li>
        ))}
      </ul>
      <div className="border border-ink bg-panel p-3 text-[15px]">
        <p className="flex gap-2">
          <Mark state="caution" />
          <span>
            <strong>Two independent stands under the car</strong>, and it level. Oil on an exhaust
            burns. Gaps are measured cold and still.
          </span>
        </p>
      </div>
      <div className="flex flex-wrap items-end gap-2 text-[14px] text-ink-2">
        <label className="flex flex-col">
          Offered up
          <select
            value={means}
            onChange={(event) => setMeans(event.target.value as Means)}
            className="min-h-11 border border-ink bg-panel px-2 text-[16px]"
          >
            {(Object.keys(fit.means) as Means[]).map((each) => (
              <option key={each} value={each}>
                {fit.means[each]?.[0] as string}
              </option>
            ))}
          </select>
        </label>
        <label className="flex flex-col">
          car
          <select
            value={carOn}
            onChange={(event) => setCarOn(event.target.value as CarOn)}
            className="min-h-11 border border-ink bg-panel px-2 text-[16px]"
          >
            {(Object.keys(ON) as CarOn[]).map((each) => (
              <option key={each} value={each}>
                {ON[each]}
              </option>
            ))}
          </select>
        </label>
        <Button
          look="main"
          className="min-h-11 flex-1 !text-[17px]"
          onClick={() => onEnter({ kind: "round_begun", means, car_on: carOn, words: "" })}
        >
          Begin round {now.rounds.length + 1}
        </Button>
      </div>
      {caution && <p className="text-[14px] text-ink-2">{caution}</p>}
      {last && !last.closed && (
        <Button
          className="min-h-11"
          disabled={left > 0}
          onClick={() => onEnter({ kind: "round_closed" })}
        >
          {left > 0
            ? `${left} ${left === 1 ? "place keeps" : "places keep"} round ${last.number} open`
            : `Close round ${last.number}: all sound or accepted`}
        </Button>
      )}
      <SayPlace fit={fit} onEnter={onEnter} />
      <a className="text-[14px] underline" href={fitPage(build)} download>
        The round to take to the bench, PDF
      </a>
    </section>
  );
}
