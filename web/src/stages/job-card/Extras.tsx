import { useState, type ReactElement } from "react";
import type { JobStage, Said } from "../../api/job";
import { Button } from "../../parts/Button";
import { row } from "./row";

/** What else is done on this job: a part renewed, a part looked at. */
export function Extras({
  title,
  stage,
  said,
  onSay,
}: {
  title: string;
  stage: JobStage;
  said: Said;
  onSay: (said: Said) => void;
}): ReactElement {
  const extras = said.extras;
  const [part, setPart] = useState("pan");
  const chosen = stage.parts.find(({ id }) => id === part);
  const nameOf = (id: string): string => stage.parts.find((each) => each.id === id)?.name ?? id;
  const add = (what: "renew" | "look_at"): void =>
    onSay({
      ...said,
      extras: [...extras.filter((each) => each.part !== part), { do: what, part }],
    });
  return (
    <section aria-label="Also" className="border-t border-hair py-2">
      <h3 className="font-figure text-[16px] font-semibold">{title}</h3>
      <ul>
        {extras.map((each) => (
          <li key={each.part} className={row}>
            <span className="text-ink">
              {each.do === "renew" ? "renew" : "look over"}: {nameOf(each.part)}
            </span>
            <Button
              onClick={() => onSay({ ...said, extras: extras.filter((other) => other !== each) })}
            >
              Not this
            </Button>
          </li>
        ))}
      </ul>
      <div className="mt-1 flex flex-wrap gap-2">
        <select
          value={part}
          aria-label="A part to renew or to look at"
          onChange={(event) => setPart(event.target.value)}
          className="min-h-9 min-w-0 flex-1 border border-ink bg-panel px-2 text-[15px]"
        >
          {stage.parts.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
        <Button disabled={!chosen?.renewable} onClick={() => add("renew")}>
          Renew
        </Button>
        <Button onClick={() => add("look_at")}>Look over</Button>
      </div>
    </section>
  );
}
