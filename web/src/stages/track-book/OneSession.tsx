import { useEffect, useState, type ReactElement } from "react";
import type { Driven } from "../../api/book";
import { wordsOf } from "../../api/client";
import { useJudge, useJudged, type Judged } from "../../api/judged";
import { photoAddress } from "../../api/photos";
import { useBuildView } from "../../document/BuildContext";
import { InUnits } from "../../parts/InUnits";
import { Notice } from "../../parts/Notice";
import { useSettings } from "../../parts/settings";
import { volumeAs } from "../../parts/units";
import { JudgedView } from "./JudgedView";
import { SessionLaps } from "./SessionLaps";
import { dayWords } from "../../parts/days";

/** Looks once for a forecast of a session that was written down before there was one. */
function useLookAgain(buildId: number, session: string, judged: Judged | null | undefined): void {
  const { forecast } = useBuildView();
  const { mutate, isIdle } = useJudge(buildId, session);
  const lag = judged && !judged.forecast ? judged.sensor.lag_s : null;
  const isThere = forecast.figures !== null;
  useEffect(() => {
    if (lag !== null && isThere && isIdle) mutate({ lap_ids: [], lag_s: lag, forecast_anew: true });
  }, [lag, isThere, isIdle, mutate]);
}

/** One session read out: what it used, what the driver said, what was changed before it. */
export function OneSession({
  driven,
  buildId,
  onAnew,
  onStrike,
}: {
  driven: Driven;
  buildId: number;
  onAnew: () => void;
  onStrike: () => void;
}): ReactElement {
  const { units, system } = useSettings();
  const { session } = driven;
  const judged = useJudged(buildId, session.id, driven.dips !== null);
  useLookAgain(buildId, session.id, judged.data);
  const [isChoosing, setChoosing] = useState(false);
  const litres = (value: number): string => {
    const { figure, unit } = volumeAs(units, system, value);
    return `${figure} ${unit}`;
  };
  const lines = [
    `${session.hours} h run${session.tyres ? `, on ${session.tyres}` : ""}${session.oil ? `, ${session.oil}` : ""}`,
    ...(driven.oil_used_l_h === null ? [] : [`${litres(driven.oil_used_l_h)} of oil an hour`]),
    ...(driven.can_ml_h === null ? [] : [`${driven.can_ml_h} ml an hour into the catch can`]),
    ...(driven.lost_l === null
      ? []
      : [`${litres(driven.lost_l)} neither in the pan nor in the can`]),
    ...(driven.over_ambient_c === null ? [] : [`${driven.over_ambient_c} K over the air outside`]),
  ];
  return (
    <section aria-label="The session" className="px-4 py-2 text-[15px] lg:px-6">
      <h2 className="font-figure text-[18px] font-semibold">
        {dayWords(session.on)}, {session.circuit}
      </h2>
      <p>
        <InUnits words={lines.join(" · ")} />
      </p>
      {session.words && <p className="mt-1 border-l-2 border-ink pl-2">{session.words}</p>}
      {driven.changed.length > 0 && (
        <p className="mt-1">Changed since the session before: {driven.changed.join("; ")}.</p>
      )}
      <div className="mt-1 flex flex-wrap gap-1">
        {session.photos.map((token) => (
          <a key={token} href={photoAddress(buildId, token)} target="_blank" rel="noreferrer">
            <img
              src={photoAddress(buildId, token)}
              alt={`Photo of ${dayWords(session.on)}`}
              className="h-16 w-20 border border-ink object-cover"
            />
          </a>
        ))}
      </div>
      {isChoosing ? (
        <SessionLaps
          session={session.id}
          judged={judged.data ?? null}
          onDone={() => setChoosing(false)}
        />
      ) : judged.data ? (
        <JudgedView key={session.id} judged={judged.data} buildId={buildId} session={session.id} />
      ) : (
        judged.error && (
          <Notice kind="bad" title="Its laps cannot be shown">
            {wordsOf(judged.error)}
          </Notice>
        )
      )}
      <p className="mt-1 text-[13px] text-ink-2">Written by {driven.by}.</p>
      <p className="flex flex-wrap gap-x-5">
        <button type="button" className="min-h-9 underline" onClick={() => setChoosing(true)}>
          {judged.data ? "Other laps" : "Hold its laps against the forecast"}
        </button>
        <button type="button" className="min-h-9 underline" onClick={onAnew}>
          Write it anew
        </button>
        <button type="button" className="min-h-9 underline" onClick={onStrike}>
          Strike it out
        </button>
      </p>
    </section>
  );
}
