import { useState, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import { useLaps } from "../../api/queries";
import { useBuildView } from "../../document/BuildContext";
import { Button } from "../../parts/Button";
import { Waiting } from "../../parts/Notice";
import { BetterTyres } from "./BetterTyres";
import { LapView } from "./LapView";
import { LogImport } from "./LogImport";
import { ManoeuvreForm } from "./ManoeuvreForm";
import { lapTime } from "./reading";

type Shown = { kind: "lap"; lapId: number } | { kind: "import" } | { kind: "manoeuvre" };

/** The loads a build is judged by: laps to look at, a log to import, a manoeuvre to say. */
export function Loads(): ReactElement {
  const { build, edit, go } = useBuildView();
  const onChoose = (lapId: number): Promise<unknown> => edit.mutateAsync({ kind: "lap", lapId });
  const onDone = (): void => go("slosh");
  const laps = useLaps();
  const [chosen, setChosen] = useState<Shown | null>(null);
  const first = build.lap_id ?? laps.data?.[0]?.id ?? null;
  const shown: Shown =
    chosen ?? (first !== null ? { kind: "lap", lapId: first } : { kind: "import" });

  async function judgeBy(lapId: number): Promise<void> {
    await onChoose(lapId);
    onDone();
  }
  async function kept(lapId: number): Promise<void> {
    await onChoose(lapId);
    setChosen({ kind: "lap", lapId });
  }

  const judge = (lapId: number, by: boolean): void =>
    edit.mutate({
      kind: "judged",
      lapIds: by ? [...build.judged_by, lapId] : build.judged_by.filter((each) => each !== lapId),
    });
  const name = (lapId: number): string =>
    laps.data?.find((lap) => lap.id === lapId)?.name ?? "the lap";
  return (
    <div className="grid gap-x-8 gap-y-6 overflow-y-auto p-6 lg:grid-cols-[240px_minmax(0,1fr)]">
      <section aria-labelledby="laps">
        <h2 id="laps" className="font-figure text-[18px] font-semibold">
          Laps of the workshop
        </h2>
        {!laps.data && (
          <Waiting
            error={laps.error ? wordsOf(laps.error) : null}
            what="the laps"
            onRetry={() => void laps.refetch()}
          />
        )}
        {laps.data?.length === 0 && (
          <p className="mt-1 text-ink-2">None yet: import a log, or say a load.</p>
        )}
        {(laps.data?.length ?? 0) > 0 && (
          <p className="mt-1 text-[13px] text-ink-2">
            Ticked: this build is judged by it. The verdict is the worst of them.
          </p>
        )}
        <ul className="mt-1 border-t border-hair empty:border-0">
          {laps.data?.map((lap) => {
            const current = shown.kind === "lap" && shown.lapId === lap.id;
            return (
              <li key={lap.id} className="flex items-center gap-2 border-b border-hair">
                <input
                  type="checkbox"
                  checked={build.judged_by.includes(lap.id)}
                  aria-label={`Judge by ${lap.name}`}
                  title="judge this build by it"
                  className="size-4 shrink-0 accent-[var(--ink)]"
                  onChange={(event) => judge(lap.id, event.target.checked)}
                />
                <button
                  type="button"
                  aria-current={current}
                  onClick={() => setChosen({ kind: "lap", lapId: lap.id })}
                  className={`flex min-w-0 flex-1 items-baseline justify-between gap-2 px-1 py-1.5 text-left ${current ? "bg-ink text-paper" : ""}`}
                >
                  <span className="min-w-0">
                    <span className="block truncate">{lap.name}</span>
                    {lap.id === build.lap_id && (
                      <span className="text-[13px] font-semibold">shown</span>
                    )}
                  </span>
                  <span className="shrink-0 font-figure text-[14px] whitespace-nowrap">
                    {lapTime(lap.duration_s)}
                  </span>
                </button>
              </li>
            );
          })}
        </ul>
        <div className="mt-3 flex flex-col gap-2">
          <Button
            look={shown.kind === "import" ? "main" : "plain"}
            onClick={() => setChosen({ kind: "import" })}
          >
            Import a log
          </Button>
          <Button
            look={shown.kind === "manoeuvre" ? "main" : "plain"}
            onClick={() => setChosen({ kind: "manoeuvre" })}
          >
            No logger? Say the load
          </Button>
        </div>
      </section>
      <div className="min-w-0">
        {shown.kind === "import" && <LogImport onKept={(lapId) => void kept(lapId)} />}
        {shown.kind === "manoeuvre" && <ManoeuvreForm onKept={(lapId) => void kept(lapId)} />}
        {shown.kind === "lap" && (
          <LapView
            key={shown.lapId}
            lapId={shown.lapId}
            nose={build.document.car.nose_points}
            isShown={shown.lapId === build.lap_id}
            judged={build.judged_by.includes(shown.lapId)}
            onJudge={() => void judgeBy(shown.lapId)}
            onSee={onDone}
            onGone={() => setChosen(null)}
            extra={
              <BetterTyres
                lapId={shown.lapId}
                name={name(shown.lapId)}
                onKept={(lapId) => setChosen({ kind: "lap", lapId })}
              />
            }
          />
        )}
      </div>
    </div>
  );
}
