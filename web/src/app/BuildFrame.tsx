import { useEffect, useState, type ReactElement } from "react";
import { useNavigate, useParams } from "react-router";
import { wordsOf } from "../api/client";
import {
  useBuild,
  useEdit,
  useSignOut,
  useSlosh,
  type BuildOut,
  type Session,
  type Slosh,
} from "../api/queries";
import { Hatches } from "../parts/Hatches";
import { Notice, Waiting } from "../parts/Notice";
import { useSettings } from "../parts/settings";
import { Loads } from "../screens/loads/Loads";
import { SloshScreen } from "../screens/slosh/SloshScreen";
import { ToCome } from "../screens/tocome/ToCome";
import { HeadStrip } from "./HeadStrip";
import { JobRail, type StageState } from "./JobRail";
import { GROUPS, stageOf } from "./stages";

function statesOf(build: BuildOut, slosh: Slosh | undefined): Record<string, StageState> {
  const states: Record<string, StageState> = {
    loads: build.lap_id ? { mark: "good", word: "1 lap" } : { mark: "nothing", word: "no lap" },
    slosh: { mark: "nothing", word: "no lap" },
  };
  const verdict = slosh?.verdict;
  if (verdict?.state === "runs_dry")
    states.slosh = {
      mark: "bad",
      word: verdict.dip_count === 1 ? "1 dip" : `${verdict.dip_count ?? 0} dips`,
    };
  if (verdict?.state === "draws_air") states.slosh = { mark: "caution", word: "draws air" };
  if (verdict?.state === "sound") states.slosh = { mark: "good", word: "sound" };
  return states;
}

/** Whether keys typed here belong to a field and not to the frame. */
function inField(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName);
}

/** Whether a figure's field holds nothing typed: undo there is the build's, not the text's. */
function isUntouched(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && target.dataset.untouched !== undefined;
}

/** One build: head strip, job rail, and the stage's screen. */
export function BuildFrame({ session }: { session: Session }): ReactElement {
  const { buildId, stage: stageKey = "slosh" } = useParams();
  const id = Number(buildId);
  const build = useBuild(id);
  const slosh = useSlosh(build.data);
  const edit = useEdit(id);
  const signOut = useSignOut();
  const navigate = useNavigate();
  const { system, setSystem } = useSettings();
  const [railOpen, setRailOpen] = useState(false);
  const stage = stageOf(stageKey);
  const { mutate } = edit;

  useEffect(() => {
    function onKey(event: KeyboardEvent): void {
      if (inField(event.target) && !(isUntouched(event.target) && event.key !== "u")) return;
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z") {
        event.preventDefault();
        mutate({ kind: event.shiftKey ? "redo" : "undo" });
      } else if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "y") {
        event.preventDefault();
        mutate({ kind: "redo" });
      } else if (event.key === "u" && !event.ctrlKey && !event.metaKey && !event.altKey)
        setSystem(system === "metric" ? "us" : "metric");
    }
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [mutate, system, setSystem]);

  if (!build.data)
    return (
      <Waiting
        error={build.error ? wordsOf(build.error) : null}
        what="the build"
        onRetry={() => void build.refetch()}
      />
    );
  const rail = (
    <JobRail
      buildId={id}
      states={statesOf(build.data, slosh.data)}
      onPick={() => setRailOpen(false)}
    />
  );
  const group = GROUPS.findIndex((one) => one.stages.some((each) => each.key === stageKey));
  return (
    <div className="flex min-h-full flex-col lg:h-full">
      <Hatches />
      <HeadStrip
        build={build.data}
        slosh={slosh.data}
        session={session}
        pending={slosh.isFetching}
        saving={edit.isPending}
        onUndo={() => mutate({ kind: "undo" })}
        onRedo={() => mutate({ kind: "redo" })}
        onSignOut={() => signOut.mutate(undefined, { onSuccess: () => void navigate("/") })}
      />
      <div className="flex min-h-0 flex-1">
        <div className="hidden w-[168px] shrink-0 overflow-y-auto border-r border-ink md:block">
          {rail}
        </div>
        <main className="flex min-w-0 flex-1 flex-col pb-[50px] md:pb-0">
          {edit.error && (
            <div className="p-3">
              <Notice kind="bad" title="Not saved">
                {wordsOf(edit.error)}{" "}
                <button type="button" className="underline" onClick={() => edit.reset()}>
                  Close
                </button>
              </Notice>
            </div>
          )}
          {stage?.key === "slosh" && (
            <SloshScreen
              build={build.data}
              slosh={slosh}
              edit={edit}
              onLoads={() => void navigate(`/builds/${id}/loads`)}
            />
          )}
          {stage?.key === "loads" && (
            <Loads
              build={build.data}
              onChoose={(lapId) => edit.mutateAsync({ kind: "lap", lapId })}
              onDone={() => void navigate(`/builds/${id}/slosh`)}
            />
          )}
          {stage?.key !== "slosh" && stage?.key !== "loads" && (
            <ToCome
              name={stage?.name ?? "This stage"}
              words={stage?.words ?? "There is no such stage."}
              onSlosh={() => void navigate(`/builds/${id}/slosh`)}
            />
          )}
        </main>
      </div>
      <div className="fixed inset-x-0 bottom-0 z-10 border-t border-ink bg-panel md:hidden">
        {railOpen && (
          <div className="max-h-[70vh] overflow-y-auto border-b border-hair">{rail}</div>
        )}
        <button
          type="button"
          aria-expanded={railOpen}
          onClick={() => setRailOpen(!railOpen)}
          className="flex h-[50px] w-full items-center justify-between px-4 font-figure text-[17px] font-semibold"
        >
          <span>
            {group + 1} {GROUPS[group]?.name}
          </span>
          <span>{stage?.name}</span>
          <svg width="14" height="10" viewBox="0 0 14 10" aria-hidden="true">
            <path
              d={railOpen ? "M1 2l6 6 6-6" : "M1 8l6-6 6 6"}
              fill="none"
              stroke="currentColor"
              strokeWidth="2"
            />
          </svg>
        </button>
      </div>
    </div>
  );
}
