import { useNavigate } from "react-router";
import type { BuildOut, Edit } from "../api/queries";
import { exportAddress } from "../api/records";
import { FITS, type FitKind } from "../document/circuit/fits";
import { useCommands, type Command } from "../parts/commands";
import { useSettings, type Settings } from "../parts/settings";
import { HOME, STAGES_OF } from "./registry";

/** What lies over the screen. */
export type Box = "commands" | "keys" | "history" | `fit ${FitKind}` | null;

/** Going to a part of the job, or to a stage of it. */
function ways(go: (stage: string) => () => void): Command[] {
  return [
    ...STAGES_OF.map(({ name, stages }, index): Command => ({
      id: `group ${name}`,
      group: "Frame",
      words: `Go to ${name}`,
      key: String(index + 1),
      run: go(stages[0]?.key ?? HOME),
    })),
    ...STAGES_OF.flatMap(({ stages }) =>
      stages.map(({ key, name, letter }): Command => ({
        id: `stage ${key}`,
        group: "Frame",
        words: `Open ${name}`,
        key: letter,
        run: go(key),
      })),
    ),
  ];
}

function looks({ system, setSystem, theme, setTheme }: Settings): Command[] {
  return [
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
  ];
}

/** Undoing and doing again, the history, the document as a file. */
function edits(
  build: BuildOut | undefined,
  mutate: (edit: Edit) => void,
  open: (box: Box) => void,
): Command[] {
  const again = (key: string, shown: string): Command => ({
    id: key,
    group: "Edit",
    words: build?.redo ? `Do again: ${build.redo}` : "Do again what was undone",
    key,
    shown,
    inFields: true,
    run: () => {
      if (build?.redo != null) mutate({ kind: "redo" });
    },
  });
  return [
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
    again("ctrl+y", "ctrl Y"),
    again("ctrl+shift+z", "ctrl shift Z"),
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
      words: "Save the build as a file: records, job cards, rounds, order, photos",
      run: () => {
        if (build) window.location.assign(exportAddress(build));
      },
    },
  ];
}

/** What can be fitted to the circuit: each opens its form. */
const fits = (open: (box: Box) => void): Command[] =>
  (Object.keys(FITS) as FitKind[]).map((kind) => ({
    id: `fit ${kind}`,
    group: "Circuit",
    words: `Fit or change: ${FITS[kind].words}`,
    run: () => open(`fit ${kind}`),
  }));

/** What keys and the command box do on every stage. */
export function useFrameCommands(
  build: BuildOut | undefined,
  mutate: (edit: Edit) => void,
  open: (box: Box) => void,
): void {
  const navigate = useNavigate();
  const settings = useSettings();
  const go = (stage: string) => (): void => void navigate(`/builds/${build?.id ?? 0}/${stage}`);
  useCommands("frame", [
    { id: "box", group: "Frame", words: "Find a command", key: "/", run: () => open("commands") },
    { id: "keys", group: "Frame", words: "Show the keys", key: "?", run: () => open("keys") },
    ...ways(go),
    { id: "shelf", group: "Frame", words: "All builds", run: () => void navigate("/") },
    { id: "runs", group: "Frame", words: "Runs", run: () => void navigate("/runs") },
    ...looks(settings),
    ...edits(build, mutate, open),
    ...(build ? fits(open) : []),
  ]);
}
