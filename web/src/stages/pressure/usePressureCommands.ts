import type { PressureStage } from "../../api/pressure";
import type { LapTime } from "../../document/useLapTime";
import { useCommands } from "../../parts/commands";
import { stepDip } from "../../plots/traces";
import type { PictureKind, Tab } from "./picture";

/** What keys and the command box do on Pressure. */
export function usePressureCommands({
  stage,
  at,
  setKind,
  setTab,
}: {
  stage: PressureStage;
  at: LapTime;
  setKind: (kind: PictureKind) => void;
  setTab: (tab: Tab) => void;
}): void {
  const dips = stage.pressure.dips.map((dip) => ({ ...dip, worst_s: dip.lowest_at_s }));
  const dip = (way: 1 | -1) => (): void => {
    const found = stepDip(dips, at.time, way);
    if (found) at.goTo(found.worst_s);
  };
  const group = "Lap";
  const picture = "Picture";
  useCommands("pressure", [
    {
      id: "play",
      group,
      words: at.play.playing ? "Stop the lap" : "Play the lap",
      key: "space",
      run: at.play.toggle,
    },
    {
      id: "speed",
      group,
      words: "Playing speed: real or a quarter",
      key: "s",
      run: () => at.play.setSpeed(at.play.speed === 1 ? 0.25 : 1),
    },
    { id: "dip-", group, words: "Previous pressure dip", key: ",", run: dip(-1) },
    { id: "dip+", group, words: "Next pressure dip", key: ".", run: dip(1) },
    { id: "circuit", group: picture, words: "Circuit", key: "c", run: () => setKind("circuit") },
    { id: "traces", group: picture, words: "Traces", key: "v", run: () => setKind("traces") },
    { id: "table", group: picture, words: "Table", key: "t", run: () => setKind("table") },
    { id: "bottle", group: picture, words: "Accumulator", key: "b", run: () => setTab("bottle") },
    {
      id: "supply",
      group: picture,
      words: "Supply: hot, cold, the valve's setting",
      run: () => setTab("supply"),
    },
    { id: "cooling", group: picture, words: "Heat and cooling", run: () => setTab("cooling") },
    { id: "dips", group: picture, words: "Dips", key: "d", run: () => setTab("dips") },
    {
      id: "numbers",
      group: picture,
      words: "Numbers of the build",
      key: "e",
      run: () => setTab("numbers"),
    },
  ]);
}
