import { useId, type ReactElement, type ReactNode } from "react";
import type { PressureStage, Trial, Tune } from "../../api/pressure";
import { useBuildView } from "../../document/BuildContext";
import { ofKind } from "../../document/circuit/circuit";
import { Choice } from "../../parts/Choice";
import { EditFigure } from "../../parts/EditFigure";
import { useSettings } from "../../parts/settings";
import { lengthAs, pressureAs, volumeAs } from "../../parts/units";
import { valveWords } from "./sentence";

const SIZES = { "6": "6", "8": "8", "10": "10", "12": "12", "16": "16" };

/** One of two, as a pair of buttons. */
function Either({
  label,
  choices,
  value,
  onChoose,
}: {
  label: string;
  choices: readonly [string, string];
  /** The second is chosen. */
  value: boolean;
  onChoose: (value: boolean) => void;
}): ReactElement {
  const id = useId();
  return (
    <div
      role="group"
      aria-labelledby={id}
      className="flex items-center justify-between gap-3 border-b border-hair py-1 text-[14px] text-ink-2"
    >
      <span id={id}>{label}</span>
      <span className="flex border border-ink">
        {choices.map((words, index) => (
          <button
            key={words}
            type="button"
            aria-pressed={value === (index === 1)}
            className={`h-7 px-2.5 font-figure text-[14px] ${value === (index === 1) ? "bg-ink text-paper" : "bg-panel text-ink"}`}
            onClick={() => onChoose(index === 1)}
          >
            {words}
          </button>
        ))}
      </span>
    </div>
  );
}

/** The check valve both ways, with what went backwards in each. */
function CheckCompared({ stage }: { stage: PressureStage }): ReactNode {
  const { system, units } = useSettings();
  const { bottle, other_check: other, pressure } = stage;
  if (!bottle || !other) return null;
  const litres = (value: number): string => {
    const { figure, unit } = volumeAs(units, system, value);
    return `${figure} ${unit}`;
  };
  const bar = (value: number): string => {
    const { figure, unit } = pressureAs(units, system, value);
    return `${figure} ${unit}`;
  };
  const rows = [
    {
      words: bottle.has_check ? "fitted" : "left out",
      lost: bottle.lost_backwards_l,
      lowest: pressure.lowest_bar,
    },
    {
      words: other.fitted ? "fitted" : "left out",
      lost: other.lost_backwards_l,
      lowest: other.lowest_bar,
    },
  ];
  return (
    <table className="w-full font-figure text-[14px]">
      <caption className="py-1 text-left text-[13px] text-ink-2">
        Check valve ahead of the tee, over this lap with the engine running
      </caption>
      <thead>
        <tr className="text-left text-ink-2">
          <th className="font-medium">check valve</th>
          <th className="text-right font-medium">lost backwards</th>
          <th className="text-right font-medium">lowest</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.words}>
            <td>{row.words}</td>
            <td className="text-right">{litres(row.lost)}</td>
            <td className="text-right">{bar(row.lowest)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** The length of a line whose way is laid on Lines: changed there. */
function LaidLength({ long }: { long: number | null }): ReactElement {
  const { system, units } = useSettings();
  const { go } = useBuildView();
  const shown = lengthAs(units, system, long ?? 0);
  return (
    <div className="flex items-baseline justify-between gap-3 border-b border-hair py-1">
      <span className="text-[14px] text-ink-2">
        Its length, as{" "}
        <button type="button" className="underline" onClick={() => go("lines")}>
          laid on Lines
        </button>
      </span>
      <span className="font-figure text-[18px] font-semibold">
        {shown.figure} <span className="text-[14px] font-normal text-ink-2">{shown.unit}</span>
      </span>
    </div>
  );
}

/** What is in the bottle's line: valve, restrictor, check, its size and length. */
export function BottleLine({
  stage,
  tune,
  trial,
  onTune,
}: {
  stage: PressureStage;
  tune: Tune;
  trial: Trial | undefined;
  onTune: (tune: Tune) => void;
}): ReactElement | null {
  const { circuit } = useBuildView().build.document;
  const bottle = ofKind(circuit, "accumulator")[0];
  const branch = stage.layout.branches.find(({ parts }) => parts.at(-1)?.component === bottle?.id);
  if (!bottle || !branch) return null;
  const ids = new Set(branch.parts.map(({ component }) => component));
  const valve = ofKind(circuit, "shut_off_valve").find(({ id }) => ids.has(id));
  const restrictor = ofKind(circuit, "restrictor").find(({ id }) => ids.has(id));
  const first = branch.parts[0]?.component;
  const line = circuit.runs.find(({ end }) => end.component === first);
  const electric = (tune.valve ?? valve?.worked) === "electric";
  const restricted = tune.restrictor ?? restrictor !== undefined;
  const ask = (change: Tune): void => onTune({ ...tune, ...change });
  const typed = (key: keyof Tune) => (text: string) => {
    ask({ [key]: text });
    return Promise.resolve();
  };
  const set = (trial?.bottle ?? stage.bottle)?.line;
  const opens = trial?.bottle.opens ?? null;
  return (
    <details className="border-b border-hair" open>
      <summary className="py-1.5 text-[14px] font-medium">Its line</summary>
      {valve && (
        <Either
          label="Its valve"
          choices={["by hand", "electric"]}
          value={electric}
          onChoose={(next) => ask({ valve: next ? "electric" : "by_hand" })}
        />
      )}
      {valve && electric && (
        <EditFigure
          label="Opens under"
          field="switch_bar"
          value={set?.switch_bar ?? null}
          note={
            opens === null
              ? "without a switch point it is taken as open"
              : valveWords(opens, trial?.bottle.chatters ?? null)
          }
          onType={typed("switch_bar")}
        />
      )}
      <Either
        label="Restrictor in it"
        choices={["none", "fitted"]}
        value={restricted}
        onChoose={(next) =>
          ask(next ? { restrictor: true, restrictor_mm: 2 } : { restrictor: false })
        }
      />
      {restricted && (
        <EditFigure
          label="Its hole"
          field="restrictor_mm"
          value={set?.restrictor_mm ?? null}
          note="slows the refill and its sag; dips that follow each other find less in it"
          onType={typed("restrictor_mm")}
        />
      )}
      {stage.bottle?.can_check && (
        <Either
          label="Check valve ahead of the tee"
          choices={["left out", "fitted"]}
          value={tune.check_valve ?? stage.bottle.has_check}
          onChoose={(next) => ask({ check_valve: next })}
        />
      )}
      {line && (line.line.kind === "hose" || line.line.kind === "hard_line") && (
        <>
          <Choice
            label="Size of its line"
            value={`${tune.dash ?? line.line.dash ?? 10}` as keyof typeof SIZES}
            choices={SIZES}
            onChoose={(size) => ask({ dash: Number(size) as NonNullable<Tune["dash"]> })}
          />
          {set?.is_laid ? (
            <LaidLength long={set.length_mm} />
          ) : (
            <EditFigure
              label="Its length"
              field="length_mm"
              value={set?.length_mm ?? null}
              note="without a length its loss is left out"
              onType={typed("length_mm")}
            />
          )}
        </>
      )}
      <CheckCompared stage={stage} />
    </details>
  );
}
