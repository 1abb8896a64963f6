import type { Slosh } from "../../api/queries";
import { reachOf } from "../../drawing/tilt";
import { useCommands, type Command } from "../../parts/commands";
import { tipped } from "../../plots/LoadDial";
import { heldTo, type Load } from "../../plots/rose";
import { stepDip } from "../../plots/traces";
import type { Play } from "../../parts/usePlay";
import type { InspectorTab } from "./Inspector";
import { AT_REST } from "./moment";
import type { PictureKind } from "./Picture";

interface Wanted {
  slosh: Slosh | undefined;
  time: number;
  load: Load;
  play: Play;
  setPad: (load: Load | null) => void;
  goTo: (time: number) => void;
  setKind: (kind: PictureKind) => void;
  setTab: (tab: InspectorTab) => void;
  onClip: () => void;
}

const ARROWS = [
  ["ArrowLeft", "left: right turn"],
  ["ArrowRight", "right: left turn"],
  ["ArrowUp", "up: braking"],
  ["ArrowDown", "down: gaining speed"],
] as const;

/** Tipping the load, a little or far. */
function loadCommands({ slosh, load, setPad }: Wanted): Command[] {
  const tip = (key: string, far: boolean) => (): void => {
    const next = tipped(load, key, far);
    if (next && slosh) setPad(heldTo(reachOf(slosh.tilt), next));
  };
  return [
    ...ARROWS.flatMap(([key, words]): Command[] => [
      {
        id: key,
        group: "Load",
        words: `Tip the load ${words}`,
        key,
        shown: `arrow ${words.split(":")[0] ?? ""}`,
        run: tip(key, false),
      },
      {
        id: `far ${key}`,
        group: "Load",
        words: `The same, 0.2 g at a time (${words.split(":")[0] ?? ""})`,
        key: `shift+${key}`,
        shown: `shift arrow`,
        run: tip(key, true),
      },
    ]),
    {
      id: "rest",
      group: "Load",
      words: "Load off: the car at rest",
      key: "0",
      run: () => setPad(AT_REST),
    },
  ];
}

/** Playing the lap and going from dip to dip, where there is a lap. */
function lapCommands({ slosh, time, play, setPad, goTo }: Wanted): Command[] {
  const lap = slosh?.lap;
  if (!lap) return [];
  const dip = (way: 1 | -1) => (): void => {
    const found = stepDip(lap.dips, time, way);
    if (found) goTo(found.worst_s);
  };
  return [
    {
      id: "lap",
      group: "Lap",
      words: "Back to the lap's moment",
      key: "Escape",
      shown: "esc",
      run: () => setPad(null),
    },
    {
      id: "play",
      group: "Lap",
      words: play.playing ? "Stop the lap" : "Play the lap",
      key: "space",
      run: play.toggle,
    },
    {
      id: "speed",
      group: "Lap",
      words: "Playing speed: real or a quarter",
      key: "s",
      run: () => play.setSpeed(play.speed === 1 ? 0.25 : 1),
    },
    { id: "dip-", group: "Lap", words: "Previous dip", key: ",", run: dip(-1) },
    { id: "dip+", group: "Lap", words: "Next dip", key: ".", run: dip(1) },
    ...lap.dips.slice(0, 9).map((each) => ({
      id: `dip${each.rank}`,
      group: "Lap",
      words: `Go to dip ${each.rank}: ${each.words}`,
      run: () => goTo(each.worst_s),
    })),
  ];
}

/** Which picture, and what is beside it. */
function pictureCommands({ slosh, setKind, setTab, onClip }: Wanted): Command[] {
  const group = "Picture";
  return [
    ...(slosh?.lap ? [{ id: "clip", group, words: "Save a clip of the lap", run: onClip }] : []),
    { id: "cut", group, words: "Cut away", key: "c", run: () => setKind("cut-away") },
    { id: "sections", group, words: "Sections", key: "v", run: () => setKind("sections") },
    { id: "plan", group, words: "Plan", key: "p", run: () => setKind("plan") },
    { id: "rose", group, words: "Rose and dips", key: "d", run: () => setTab("dips") },
    { id: "numbers", group, words: "Numbers of the build", key: "e", run: () => setTab("numbers") },
  ];
}

/** What keys and the command box do on Slosh. */
export function useSloshCommands(wanted: Wanted): void {
  useCommands("slosh", [
    ...loadCommands(wanted),
    ...lapCommands(wanted),
    ...pictureCommands(wanted),
  ]);
}
