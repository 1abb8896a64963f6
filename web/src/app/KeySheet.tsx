import type { ReactElement } from "react";
import { useCommandList } from "../parts/commands";
import { Dialog } from "../parts/Dialog";

const ALWAYS: [string, string][] = [
  ["Enter", "accept a figure"],
  ["Escape", "leave a figure as it was; close a box"],
  ["arrows in a figure", "one step up or down in its last place"],
];

/** The keys of this screen. */
export function KeySheet({ onClose }: { onClose: () => void }): ReactElement {
  const commands = useCommandList().filter(
    ({ key, id }) => key && !id.startsWith("far ") && key !== "ctrl+shift+z",
  );
  const groups = [...new Set(commands.map(({ group }) => group))];
  const row = (key: string, words: string): ReactElement => (
    <div
      key={`${key}${words}`}
      className="flex justify-between gap-4 border-b border-hair py-1 text-[14px]"
    >
      <dt>{words}</dt>
      <dd className="shrink-0 font-figure font-semibold">{key}</dd>
    </div>
  );
  return (
    <Dialog title="Keys" wide onClose={onClose}>
      <div className="grid gap-x-8 px-4 py-3 sm:grid-cols-2">
        {groups.map((group) => (
          <section key={group} className="pb-4">
            <h3 className="font-figure text-[17px] font-semibold">{group}</h3>
            <dl>
              {commands
                .filter((command) => command.group === group)
                .map(({ key, shown, words }) => row(shown ?? key ?? "", words))}
            </dl>
          </section>
        ))}
        <section className="pb-4">
          <h3 className="font-figure text-[17px] font-semibold">Figures and boxes</h3>
          <dl>{ALWAYS.map(([key, words]) => row(key, words))}</dl>
          <p className="pt-2 text-[13px] text-ink-2">
            With shift the arrows tip the load 0.2 g at a time. With the pad, the strip or the
            three-dimensional pan in focus the arrows belong to it.
          </p>
        </section>
      </div>
    </Dialog>
  );
}
