import { useRef, useState, type ReactElement } from "react";
import { useJudge, useJudgedTrace, type Judged, type PlaceJudged } from "../../api/judged";
import { Button } from "../../parts/Button";
import { ReadOut } from "../../parts/ReadOut";
import { useSize } from "../../parts/size";
import { DipMark } from "./DipMark";
import { DipsMap } from "./DipsMap";
import { DipTrace } from "./DipTrace";
import { countWords, isOf, judgedTable, lateWords } from "./judgedWords";
import { LapGrid, type DipAt } from "./LapGrid";

const HIGH = 300;

/** The first lap on which there is something at a place. */
function dipAt(judged: Judged, place: PlaceJudged): DipAt | null {
  for (const [lap, { dips }] of judged.laps.entries()) {
    const dip = dips.findIndex((each) => isOf(each, place));
    if (dip >= 0) return { lap, dip };
  }
  return null;
}

/** The dip that is read out first: a miss before a hit, the deepest of them. */
export function firstDip(judged: Judged): DipAt | null {
  const order = ["miss", "hit", "false_alarm", "not_shown"];
  const rows = judged.laps.flatMap(({ dips }, lap) =>
    dips.map((each, dip) => ({ lap, dip, word: each.word, low: each.lowest_bar ?? 99 })),
  );
  rows.sort(
    (one, other) => order.indexOf(one.word) - order.indexOf(other.word) || one.low - other.low,
  );
  return rows[0] ?? null;
}

/** A session's laps against the forecast: where, when, how deep; and what it resembles. */
export function JudgedView({
  judged,
  buildId,
  session,
}: {
  judged: Judged;
  buildId: number;
  session: string;
}): ReactElement {
  const [chosen, setChosen] = useState<DipAt | null>(null);
  const [frame, size] = useSize();
  const drawing = useRef<HTMLDivElement>(null);
  const at = chosen ?? firstDip(judged);
  const trace = useJudgedTrace(buildId, session, at).data;
  const dip = at ? judged.laps[at.lap]?.dips[at.dip] : undefined;
  const isWide = size.width > 640;
  const half = isWide ? size.width * 0.54 : size.width;
  const { forecast } = judged;
  const judge = useJudge(buildId, session);
  return (
    <section aria-label="Where the gallery dipped" ref={frame} className="py-2">
      <div className="flex items-start justify-between gap-3">
        <h3 className="font-figure text-[18px] font-semibold">{judged.headline}</h3>
        <ReadOut name="dips" table={() => judgedTable(judged)} drawing={drawing} />
      </div>
      <p className="text-[14px] text-ink-2">
        {judged.sensor.words} · lag {judged.sensor.lag_s} s
        {forecast
          ? ` · forecast: ${forecast.model}, over ${forecast.lap}, kept as it was`
          : " · no forecast in moving oil of this car over a lap of this circuit was there"}
      </p>
      {!forecast && (
        <p className="flex flex-wrap items-center gap-3 py-1 text-[15px]">
          <span>Run it on Slosh, then hold the laps against it.</span>
          <Button
            disabled={judge.isPending}
            onClick={() =>
              judge.mutate({ lap_ids: [], lag_s: judged.sensor.lag_s, forecast_anew: true })
            }
          >
            {judge.isPending ? "Looking for it" : "Look for a forecast again"}
          </Button>
          {judge.data && !judge.data.forecast && <span role="status">None is there yet.</span>}
        </p>
      )}
      <div ref={drawing} className={isWide ? "flex items-start" : ""}>
        <div style={{ width: half }}>
          <DipsMap
            judged={judged}
            width={half}
            mostHeight={HIGH}
            picked={judged.places.find((place) => dip && isOf(dip, place)) ?? null}
            onPick={(place) => setChosen(dipAt(judged, place))}
          />
          <ul className="flex flex-wrap gap-x-5 text-[15px]">
            {countWords(judged).map(({ word, count, words }) => (
              <li key={word} className="flex items-center gap-1.5">
                <svg width="24" height="24" viewBox="-12 -12 24 24" aria-hidden="true">
                  <DipMark word={word} size={0.9} />
                </svg>
                <strong className="font-figure text-[17px] font-semibold">{count}</strong> {words}
              </li>
            ))}
          </ul>
        </div>
        {trace && dip && (
          <figure className="min-w-0 flex-1">
            <figcaption className="flex justify-between gap-2 font-figure text-[15px]">
              <strong className="font-semibold">
                {trace.place}, {trace.lap}
              </strong>
              <span className="text-ink-2">
                gallery, bar{dip.late_s === null ? "" : ` · ${lateWords(dip.late_s)}`}
              </span>
            </figcaption>
            <DipTrace trace={trace} width={isWide ? size.width - half : size.width} height={250} />
          </figure>
        )}
      </div>
      {judged.resembles && <p className="py-1 text-[15px]">{judged.resembles.words}</p>}
      {judged.places.length > 0 && <LapGrid judged={judged} picked={at} onPick={setChosen} />}
      {judged.left_out.map(({ name, why }) => (
        <p key={name} className="text-[14px] text-ink-2">
          {name} {why}.
        </p>
      ))}
    </section>
  );
}
