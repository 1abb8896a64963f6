import type { ReactElement } from "react";
import { useTickPart, type JobStage } from "../../api/job";
import { wordsOf } from "../../api/client";
import { useBuildView } from "../../document/BuildContext";
import { HOW_FAR, HowFar } from "../../parts/HowFar";
import { dayWords } from "./words";

/** What the job takes, when each part is there, and what nothing wants any more. */
export function Parts({ stage }: { stage: JobStage }): ReactElement {
  const { build } = useBuildView();
  const tick = useTickPart(build);
  const total = stage.wanted.reduce((sum, { price }) => sum + price, 0);
  return (
    <section aria-label="Parts of the job" className="px-4 py-2">
      {tick.error && (
        <p role="alert" className="text-[14px] text-bad">
          {wordsOf(tick.error)}
        </p>
      )}
      {stage.wanted.length === 0 && <p>The job takes no parts.</p>}
      <ul>
        {stage.wanted.map((part) => (
          <li
            key={part.part}
            className="flex items-center gap-2 border-b border-hair py-1 text-[15px]"
            data-part={part.part}
          >
            <span className="min-w-0 flex-1">
              {part.count.toLocaleString("en")}{" "}
              {part.per === "metre" ? "m " : part.per === "litre" ? "L " : ""}
              {part.words}
              <span className="block text-[13px] text-ink-2">
                {part.there ? `there ${dayWords(part.there)}` : "there"}
                {part.how_far === null && part.there ? " if ordered today" : ""},{" "}
                {Math.round(part.price)}
                {part.own_price ? "" : "*"}
              </span>
            </span>
            <HowFar
              words={part.words}
              state={part.how_far}
              onTick={(state) => tick.mutate({ part: part.part, how_far: state })}
            />
          </li>
        ))}
      </ul>
      {stage.wanted.length > 0 && (
        <p className="py-1 text-[14px]">
          {Math.round(total)} in all.{" "}
          <span className="text-ink-2">
            * invented prices and lead times until the workshop typed its own.
          </span>
        </p>
      )}
      {stage.surplus.length > 0 && (
        <p className="py-1 text-[14px]" data-surplus>
          Not wanted any more:{" "}
          {stage.surplus
            .map(({ words, count, how_far: how }) => `${count} ${words} (${HOW_FAR[how]})`)
            .join(", ")}
          . Send back, or keep for the next job.
        </p>
      )}
    </section>
  );
}
