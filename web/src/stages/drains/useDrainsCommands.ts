import type { Drain } from "../../api/drains";
import type { LapTime } from "../../document/useLapTime";
import { useCommands } from "../../parts/commands";
import { stepDip } from "../../plots/traces";
import type { Tab } from "./tabs";

/** What keys and the command box do on Drains. */
export function useDrainsCommands(
  drain: Drain | null,
  at: LapTime,
  setTab: (tab: Tab) => void,
): void {
  const dips = (drain?.back_ups ?? []).map(({ worst_at_s: worst_s }) => ({ worst_s }));
  const dip = (way: 1 | -1) => (): void => {
    const found = stepDip(dips, at.time, way);
    if (found) at.goTo(found.worst_s);
  };
  useCommands("drains", [
    {
      id: "play",
      group: "Lap",
      words: at.play.playing ? "Stop the lap" : "Play the lap",
      key: "space",
      run: at.play.toggle,
    },
    {
      id: "speed",
      group: "Lap",
      words: "Playing speed: real or a quarter",
      key: "s",
      run: () => at.play.setSpeed(at.play.speed === 1 ? 0.25 : 1),
    },
    { id: "dip-", group: "Lap", words: "Previous back-up", key: ",", run: dip(-1) },
    { id: "dip+", group: "Lap", words: "Next back-up", key: ".", run: dip(1) },
    { id: "drains", group: "Picture", words: "Drains", key: "d", run: () => setTab("drains") },
    {
      id: "heads",
      group: "Picture",
      words: "Heads: oil up top",
      key: "h",
      run: () => setTab("heads"),
    },
    {
      id: "breathing",
      group: "Picture",
      words: "Breathing: blow-by, breathers, catch can",
      key: "b",
      run: () => setTab("breathing"),
    },
    { id: "rules", group: "Picture", words: "Rules of drains", run: () => setTab("rules") },
    {
      id: "numbers",
      group: "Picture",
      words: "Numbers of the build",
      key: "e",
      run: () => setTab("numbers"),
    },
  ]);
}
