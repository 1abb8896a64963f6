import { useState, type ReactElement } from "react";
import { NavLink } from "react-router";
import type { Stage } from "../document/stage";
import { Mark } from "../parts/Mark";
import { STAGES_OF } from "./registry";
import type { Box } from "./useFrameCommands";

function Entry({
  stage,
  to,
  onPick,
}: {
  stage: Stage;
  to: string;
  onPick?: () => void;
}): ReactElement {
  const { mark, word } = stage.useRail();
  return (
    <li>
      <NavLink
        to={to}
        onClick={onPick}
        className={({ isActive }) =>
          `flex h-9 items-center gap-2 pr-3 pl-4 text-[15px] whitespace-nowrap focus-visible:outline-offset-[-3px] ${
            isActive ? "bg-ink font-medium text-paper" : ""
          }`
        }
      >
        {({ isActive }) => (
          <>
            <Mark state={mark} onInk={isActive} />
            <span className="flex-1">{stage.name}</span>
            <span className={`font-figure text-[13px] ${isActive ? "" : "text-ink-2"}`}>
              {word}
            </span>
          </>
        )}
      </NavLink>
    </li>
  );
}

/** The stages in the order of the work, each with its state. */
export function JobRail({
  buildId,
  onPick,
}: {
  buildId: number;
  onPick?: () => void;
}): ReactElement {
  return (
    <nav aria-label="Stages of the job" className="py-3">
      {STAGES_OF.map((group, index) => (
        <section key={group.name} className="pb-1">
          <h2 className="flex h-8 items-center gap-3 px-4 font-figure text-[14px] font-medium text-ink-2">
            <span className="grid h-4 w-4 place-items-center border border-ink-2 text-[12px]">
              {index + 1}
            </span>
            {group.name}
          </h2>
          <ul>
            {group.stages.map((stage) => (
              <Entry
                key={stage.key}
                stage={stage}
                to={`/builds/${buildId}/${stage.key}`}
                onPick={onPick}
              />
            ))}
          </ul>
        </section>
      ))}
    </nav>
  );
}

/** The rail beside the screen, and below it the keys that find everything. */
export function RailColumn({
  buildId,
  onBox,
}: {
  buildId: number;
  onBox: (box: Box) => void;
}): ReactElement {
  const boxes = [
    ["commands", "/", "command"],
    ["keys", "?", "keys"],
  ] as const;
  return (
    <div className="hidden w-[168px] shrink-0 flex-col overflow-y-auto border-r border-ink md:flex">
      <JobRail buildId={buildId} />
      <p className="mt-auto flex justify-between px-4 pb-2 font-figure text-[14px] text-ink-2">
        {boxes.map(([which, key, words]) => (
          <button key={which} type="button" onClick={() => onBox(which)}>
            <kbd className="mr-1 border border-ink-2 px-1 font-figure">{key}</kbd>
            {words}
          </button>
        ))}
      </p>
    </div>
  );
}

/** On a phone: where one is, and the rail above it when it is opened. */
export function RailDrawer({
  buildId,
  stageKey,
}: {
  buildId: number;
  stageKey: string;
}): ReactElement {
  const [isOpen, setOpen] = useState(false);
  const at = STAGES_OF.findIndex(({ stages }) => stages.some(({ key }) => key === stageKey));
  const group = STAGES_OF[at];
  return (
    <div className="fixed inset-x-0 bottom-0 z-10 border-t border-ink bg-panel md:hidden">
      {isOpen && (
        <div className="max-h-[70vh] overflow-y-auto border-b border-hair">
          <JobRail buildId={buildId} onPick={() => setOpen(false)} />
        </div>
      )}
      <button
        type="button"
        aria-expanded={isOpen}
        onClick={() => setOpen(!isOpen)}
        className="flex h-[50px] w-full items-center justify-between px-4 font-figure text-[17px] font-semibold"
      >
        <span>
          {at + 1} {group?.name}
        </span>
        <span>{group?.stages.find(({ key }) => key === stageKey)?.name}</span>
        <svg width="14" height="10" viewBox="0 0 14 10" aria-hidden="true">
          <path
            d={isOpen ? "M1 2l6 6 6-6" : "M1 8l6-6 6 6"}
            fill="none"
            stroke="currentColor"
            strokeWidth="2"
          />
        </svg>
      </button>
    </div>
  );
}
