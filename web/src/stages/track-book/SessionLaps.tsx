import { useState, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import { useJudge, useLapsToJudge, type Judged } from "../../api/judged";
import { useBuildView } from "../../document/BuildContext";
import { Button } from "../../parts/Button";
import { Notice, Waiting } from "../../parts/Notice";
import { BringLogs } from "./BringLogs";

/** Which laps a session was: they are held against the forecast and kept with it. */
export function SessionLaps({
  session,
  judged,
  onDone,
}: {
  session: string;
  /** What was held before. */
  judged: Judged | null;
  onDone: () => void;
}): ReactElement {
  const { build } = useBuildView();
  const laps = useLapsToJudge(true);
  const judge = useJudge(build.id, session);
  const [chosen, setChosen] = useState<readonly number[]>([]);
  const [lag, setLag] = useState(judged ? String(judged.sensor.lag_s) : "");
  const [isAnew, setAnew] = useState(false);
  if (!laps.data)
    return (
      <Waiting
        error={laps.error ? wordsOf(laps.error) : null}
        what="the laps"
        onRetry={() => void laps.refetch()}
      />
    );
  const lagS = lag.trim() === "" ? null : Number(lag.replace(",", "."));
  const isLag = lagS === null || (Number.isFinite(lagS) && lagS >= 0 && lagS <= 2);
  return (
    <form
      aria-label="Laps of this session"
      className="my-2 border border-ink bg-panel p-3 text-[15px]"
      onSubmit={(event) => {
        event.preventDefault();
        judge.mutate(
          { lap_ids: [...chosen], lag_s: lagS, forecast_anew: isAnew },
          { onSuccess: onDone },
        );
      }}
    >
      <h3 className="font-figure text-[17px] font-semibold">Laps of this session</h3>
      {laps.data.length === 0 ? (
        <p className="py-1">
          No lap with its oil&apos;s pressure yet: bring the logger&apos;s files in, with the
          pressure among their columns.
        </p>
      ) : (
        <ul className="max-h-[240px] overflow-y-auto py-1">
          {laps.data.map((lap) => (
            <li key={lap.id}>
              <label className="flex min-h-9 items-center gap-2">
                <input
                  type="checkbox"
                  className="size-5 accent-(--ink)"
                  checked={chosen.includes(lap.id)}
                  onChange={(event) =>
                    setChosen(
                      event.target.checked
                        ? [...chosen, lap.id]
                        : chosen.filter((each) => each !== lap.id),
                    )
                  }
                />
                <span className="min-w-0 flex-1">
                  {lap.name} <span className="text-ink-2">{lap.file_name}</span>
                </span>
                <span className="font-figure">{lap.duration_s.toFixed(1)} s</span>
              </label>
            </li>
          ))}
        </ul>
      )}
      <BringLogs
        buildId={build.id}
        onKept={(ids) => setChosen((before) => [...new Set([...before, ...ids])])}
      />
      <div className="flex flex-wrap items-end gap-x-5 gap-y-2 py-1">
        <label className="flex flex-col text-[14px] text-ink-2">
          Lag of the pressure sensor, s
          <input
            value={lag}
            inputMode="decimal"
            placeholder="free: a guess"
            aria-invalid={!isLag}
            onChange={(event) => setLag(event.target.value)}
            className="min-h-10 w-[150px] border border-ink bg-paper px-2 text-[15px] text-ink"
          />
        </label>
        {judged?.forecast && (
          <label className="flex min-h-10 items-center gap-2 text-[14px]">
            <input
              type="checkbox"
              className="size-5 accent-(--ink)"
              checked={isAnew}
              onChange={(event) => setAnew(event.target.checked)}
            />
            by the forecast that there is now
          </label>
        )}
      </div>
      {judge.error && (
        <Notice kind="bad" title="Not held against the forecast">
          {wordsOf(judge.error)}
        </Notice>
      )}
      <div className="flex gap-2 pt-1">
        <Button onClick={onDone}>Leave it</Button>
        <Button
          look="main"
          type="submit"
          disabled={chosen.length === 0 || !isLag || judge.isPending}
        >
          {judge.isPending ? "Holding them against it" : "Hold them against the forecast"}
        </Button>
      </div>
    </form>
  );
}
