import type { ReactElement } from "react";
import { NavLink } from "react-router";
import { Mark, type MarkState } from "../parts/Mark";
import { GROUPS } from "./stages";

export interface StageState {
  mark: MarkState;
  word: string;
}

/** The twelve stages in the order of the work, each with its state. */
export function JobRail({
  buildId,
  states,
  onPick,
}: {
  buildId: number;
  states: Record<string, StageState>;
  onPick?: () => void;
}): ReactElement {
  return (
    <nav aria-label="Stages of the job" className="py-3">
      {GROUPS.map((group, index) => (
        <section key={group.name} className="pb-1">
          <h2 className="flex h-8 items-center gap-3 px-4 font-figure text-[14px] font-medium text-ink-2">
            <span className="grid h-4 w-4 place-items-center border border-ink-2 text-[12px]">
              {index + 1}
            </span>
            {group.name}
          </h2>
          <ul>
            {group.stages.map((stage) => {
              const state = states[stage.key] ?? { mark: "nothing", word: "to come" };
              return (
                <li key={stage.key}>
                  <NavLink
                    to={`/builds/${buildId}/${stage.key}`}
                    onClick={onPick}
                    className={({ isActive }) =>
                      `flex h-9 items-center gap-2 pr-3 pl-4 text-[15px] whitespace-nowrap focus-visible:outline-offset-[-3px] ${
                        isActive ? "bg-ink font-medium text-paper" : ""
                      }`
                    }
                  >
                    {({ isActive }) => (
                      <>
                        <Mark state={state.mark} onInk={isActive} />
                        <span className="flex-1">{stage.name}</span>
                        <span className={`font-figure text-[13px] ${isActive ? "" : "text-ink-2"}`}>
                          {state.word}
                        </span>
                      </>
                    )}
                  </NavLink>
                </li>
              );
            })}
          </ul>
        </section>
      ))}
    </nav>
  );
}
