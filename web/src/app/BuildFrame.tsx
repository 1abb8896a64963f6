import { useEffect, useState, type ReactElement } from "react";
import { useNavigate, useParams } from "react-router";
import { wordsOf } from "../api/client";
import {
  useBuild,
  useEdit,
  usePan,
  useSignOut,
  useSlosh,
  type BuildOut,
  type Conflict,
  type Edit,
  type Session,
} from "../api/queries";
import { useFigures, useLatest } from "../api/runs";
import {
  CommandProvider,
  keyName,
  useCommandList,
  useCommands,
  type Command,
} from "../parts/commands";
import { Notice, Waiting } from "../parts/Notice";
import { useSettings } from "../parts/settings";
import { withMoving } from "../plots/moving";
import { canDraw3d, fetchScene } from "../scene/CutAway";
import { CarScreen } from "../screens/car/CarScreen";
import { Loads } from "../screens/loads/Loads";
import { PanScreen } from "../screens/pan/PanScreen";
import { SloshScreen } from "../screens/slosh/SloshScreen";
import { ToCome } from "../screens/tocome/ToCome";
import { CommandBox } from "./CommandBox";
import { ConflictNotice } from "./ConflictNotice";
import { HeadStrip } from "./HeadStrip";
import { History } from "./History";
import { JobRail } from "./JobRail";
import { KeySheet } from "./KeySheet";
import { GROUPS, stageOf } from "./stages";
import { statesOf } from "./stageStates";
import { useAutomaticRun } from "./useAutomaticRun";

/** Whether keys typed here belong to a field and not to the frame. */
function inField(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName);
}

const onButton = (target: EventTarget | null): boolean =>
  target instanceof Element && target.closest("button, a, summary, [role=menuitem]") !== null;

const onTabs = (target: EventTarget | null): boolean =>
  target instanceof Element && target.closest("[role=tablist], [role=menu]") !== null;

/** Whether a figure's field holds nothing typed: undo there is the build's, not the text's. */
function isUntouched(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && target.dataset.untouched !== undefined;
}

/** Figures that can be set from the command box, by the names a builder says. */
const FIGURES: Record<string, string> = {
  oil: "oil.volume_l",
  "oil away": "oil.away_l",
  temperature: "oil.temperature_c",
  "mouth gap": "pickup.gap_mm",
  skirt: "pan.skirt_height_mm",
  lean: "car.lean_right_deg",
};

/** How long the screen's own picture has before what can wait is asked for [ms]. */
const CALM_AFTER = 700;

type Box = "commands" | "keys" | "history" | null;

/** Keys act unless they belong to what has the focus. */
function useKeys(closed: boolean): void {
  const commands = useCommandList();
  useEffect(() => {
    function onKey(event: KeyboardEvent): void {
      if (!closed || event.defaultPrevented || event.altKey) return;
      const name = keyName(event);
      const command = commands.find(({ key }) => key === name);
      if (!command) return;
      if (inField(event.target) && !(command.inFields && isUntouched(event.target))) return;
      if (name === "space" && onButton(event.target)) return;
      if (/Arrow/.test(name) && onTabs(event.target)) return;
      event.preventDefault();
      command.run();
    }
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [commands, closed]);
}

function useFrameCommands(
  build: BuildOut | undefined,
  mutate: (edit: Edit) => void,
  open: (box: Box) => void,
): void {
  const navigate = useNavigate();
  const { system, setSystem, theme, setTheme } = useSettings();
  const go = (stage: string) => (): void => void navigate(`/builds/${build?.id ?? 0}/${stage}`);
  const commands: Command[] = [
    { id: "box", group: "Frame", words: "Find a command", key: "/", run: () => open("commands") },
    { id: "keys", group: "Frame", words: "Show the keys", key: "?", run: () => open("keys") },
    ...GROUPS.map((group, index): Command => ({
      id: `group ${group.name}`,
      group: "Frame",
      words: `Go to ${group.name}`,
      key: String(index + 1),
      run: go((group.stages.find(({ ready }) => ready) ?? group.stages[0])?.key ?? "slosh"),
    })),
    ...GROUPS.flatMap((group) =>
      group.stages.map((stage): Command => ({
        id: `stage ${stage.key}`,
        group: "Frame",
        words: `Open ${stage.name}`,
        key: stage.key === "options" ? "o" : undefined,
        run: go(stage.key),
      })),
    ),
    { id: "shelf", group: "Frame", words: "All builds", run: () => void navigate("/") },
    { id: "runs", group: "Frame", words: "Runs", run: () => void navigate("/runs") },
    {
      id: "units",
      group: "Frame",
      words: system === "metric" ? "Units: inch and US" : "Units: metric",
      key: "u",
      run: () => setSystem(system === "metric" ? "us" : "metric"),
    },
    {
      id: "theme",
      group: "Frame",
      words: theme === "paper" ? "Night theme" : "Paper theme",
      key: "n",
      run: () => setTheme(theme === "paper" ? "night" : "paper"),
    },
    {
      id: "undo",
      group: "Edit",
      words: build?.undo ? `Undo: ${build.undo}` : "Undo",
      key: "ctrl+z",
      shown: "ctrl Z",
      inFields: true,
      run: () => {
        if (build?.undo != null) mutate({ kind: "undo" });
      },
    },
    ...["ctrl+y", "ctrl+shift+z"].map((key): Command => ({
      id: key,
      group: "Edit",
      words: build?.redo ? `Do again: ${build.redo}` : "Do again what was undone",
      key,
      shown: key === "ctrl+y" ? "ctrl Y" : "ctrl shift Z",
      inFields: true,
      run: () => {
        if (build?.redo != null) mutate({ kind: "redo" });
      },
    })),
    {
      id: "history",
      group: "Edit",
      words: "Revisions and history; name a revision",
      key: "h",
      run: () => open("history"),
    },
    {
      id: "file",
      group: "Edit",
      words: "Save the build document as a file",
      run: () => window.location.assign(`/api/builds/${build?.id ?? 0}/document`),
    },
  ];
  useCommands("frame", commands);
}

/** Whether what came first has been there for a moment, and its picture painted. */
function useCalm(isThere: boolean): boolean {
  const [isCalm, setCalm] = useState(false);
  useEffect(() => {
    if (!isThere) return undefined;
    const timer = window.setTimeout(() => setCalm(true), CALM_AFTER);
    return () => window.clearTimeout(timer);
  }, [isThere]);
  return isCalm && isThere;
}

/** One build: head strip, job rail, and the stage's screen. */
export function BuildFrame({ session }: { session: Session }): ReactElement {
  return (
    <CommandProvider>
      <Frame session={session} />
    </CommandProvider>
  );
}

function Frame({ session }: { session: Session }): ReactElement {
  const { buildId, stage: stageKey = "slosh" } = useParams();
  const id = Number(buildId);
  const [conflict, setConflict] = useState<Conflict | null>(null);
  const [box, setBox] = useState<Box>(null);
  const build = useBuild(id);
  const slosh = useSlosh(build.data);
  // on other screens the forecast comes first: the rail and the head can wait for the pan
  const panFirst = stageKey === "pan" || stageKey === "car";
  const isCalm = useCalm(slosh.data !== undefined && !slosh.isFetching);
  const pan = usePan(build.data, panFirst || isCalm);
  const latest = useLatest(build.data);
  useAutomaticRun(build.data);
  useEffect(() => {
    if (stageKey === "slosh" && canDraw3d()) fetchScene();
  }, [stageKey]);
  const [moves, setMoves] = useState(true);
  const figures = useFigures(latest.data?.finished?.id ?? null).data;
  const shown =
    slosh.data && figures && moves && !slosh.isPlaceholderData
      ? withMoving(slosh.data, figures)
      : slosh.data;
  const edit = useEdit(id, setConflict);
  const signOut = useSignOut();
  const navigate = useNavigate();
  const { system } = useSettings();
  const [railOpen, setRailOpen] = useState(false);
  const stage = stageOf(stageKey);
  const { mutate } = edit;
  useFrameCommands(build.data, mutate, setBox);
  useKeys(box === null);

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
      states={statesOf(build.data, shown, pan.data)}
      onPick={() => setRailOpen(false)}
    />
  );
  const group = GROUPS.findIndex((one) => one.stages.some((each) => each.key === stageKey));
  return (
    <div className="flex min-h-full flex-col lg:h-full lg:overflow-hidden">
      <HeadStrip
        build={build.data}
        slosh={shown}
        moves={shown !== slosh.data}
        pan={pan.data}
        session={session}
        pending={slosh.isFetching}
        saving={edit.isPending}
        onHistory={() => setBox("history")}
        onUndo={() => mutate({ kind: "undo" })}
        onRedo={() => mutate({ kind: "redo" })}
        onSignOut={() => signOut.mutate(undefined, { onSuccess: () => void navigate("/") })}
      />
      <div className="flex min-h-0 flex-1">
        <div className="hidden w-[168px] shrink-0 flex-col overflow-y-auto border-r border-ink md:flex">
          {rail}
          <p className="mt-auto flex justify-between px-4 pb-2 font-figure text-[14px] text-ink-2">
            {(
              [
                ["commands", "/", "command"],
                ["keys", "?", "keys"],
              ] as const
            ).map(([which, key, words]) => (
              <button key={which} type="button" onClick={() => setBox(which)}>
                <kbd className="mr-1 border border-ink-2 px-1 font-figure">{key}</kbd>
                {words}
              </button>
            ))}
          </p>
        </div>
        <main className="flex min-w-0 flex-1 flex-col pb-[50px] md:pb-0">
          {conflict && (
            <div className="p-3">
              <ConflictNotice
                conflict={conflict}
                onTheirs={() => setConflict(null)}
                onMine={() => {
                  setConflict(null);
                  mutate({ kind: "show", state: conflict.keptState });
                }}
                onTop={
                  conflict.edit.kind === "figures"
                    ? () => {
                        setConflict(null);
                        mutate(conflict.edit);
                      }
                    : null
                }
              />
            </div>
          )}
          {edit.error && !conflict && (
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
              shown={shown}
              latest={latest.data}
              figures={figures ?? null}
              moves={moves}
              onMoves={setMoves}
              edit={edit}
              onLoads={() => void navigate(`/builds/${id}/loads`)}
              onName={() => setBox("history")}
            />
          )}
          {stage?.key === "loads" && (
            <Loads
              build={build.data}
              onChoose={(lapId) => edit.mutateAsync({ kind: "lap", lapId })}
              onDone={() => void navigate(`/builds/${id}/slosh`)}
            />
          )}
          {stage?.key === "car" && (
            <CarScreen
              build={build.data}
              drawing={slosh.data?.drawing ?? null}
              pan={pan.data}
              edit={edit}
              onNext={() => void navigate(`/builds/${id}/pan`)}
            />
          )}
          {stage?.key === "pan" && (
            <PanScreen
              build={build.data}
              slosh={slosh}
              pan={pan}
              edit={edit}
              onNext={() => void navigate(`/builds/${id}/loads`)}
            />
          )}
          {!stage?.ready && (
            <ToCome
              name={stage?.name ?? "This stage"}
              words={stage?.words ?? "There is no such stage."}
              onSlosh={() => void navigate(`/builds/${id}/slosh`)}
            />
          )}
        </main>
      </div>
      {box === "commands" && (
        <CommandBox
          figures={FIGURES}
          onFigure={(field, typed) =>
            mutate({ kind: "figures", figures: [{ field, typed }], system })
          }
          onClose={() => setBox(null)}
        />
      )}
      {box === "keys" && <KeySheet onClose={() => setBox(null)} />}
      {box === "history" && (
        <History
          build={build.data}
          onShow={(state) => mutate({ kind: "show", state })}
          onName={(name) => mutate({ kind: "revision", name })}
          onClose={() => setBox(null)}
        />
      )}
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
