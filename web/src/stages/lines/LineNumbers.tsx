import type { ReactElement } from "react";
import type { Line, Lines } from "../../api/lines";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { EditFigure } from "../../parts/EditFigure";
import { Mark } from "../../parts/Mark";
import { useSettings } from "../../parts/settings";
import {
  flowAs,
  flowSpeedAs,
  lengthAs,
  shownAs,
  temperatureWords,
  type Shown,
} from "../../parts/units";
import { InUnits } from "../../parts/InUnits";
import { BendingSheet } from "./BendingSheet";
import { EndNumbers } from "./EndNumbers";
import { firstWay } from "./frame";
import { PointsTable } from "./PointsTable";
import { PutInLine } from "./PutInLine";
import type { Lay } from "./useLay";

const MADE_OF = { hose: "hose", hard_line: "hard line" } as const;
const SIZES = {
  "": "not known",
  "3": "size 3",
  "4": "size 4",
  "6": "size 6",
  "8": "size 8",
  "10": "size 10",
  "12": "size 12",
  "16": "size 16",
  "20": "size 20",
  "24": "size 24",
} as const;
type SizeKey = keyof typeof SIZES;

function Told({
  label,
  value,
  unit,
  wanted = "",
}: {
  label: string;
  value: string;
  unit: string;
  wanted?: string;
}): ReactElement {
  return (
    <div className="flex items-baseline justify-between gap-2 border-b border-hair py-1 text-[14px]">
      <span className="text-ink-2">{label}</span>
      <span className="text-right">
        <span className="font-figure text-[17px] font-semibold">{value}</span>{" "}
        <span className="font-figure text-ink-2">{unit}</span>
        {wanted && <span className="block text-[13px] text-ink-2">{wanted}</span>}
      </span>
    </div>
  );
}

/** What flows in it and what that takes. */
function Flows({ line, lines }: { line: Line; lines: Lines }): ReactElement | null {
  const { system, units } = useSettings();
  if (line.flow_l_min === null) return null;
  const warmth = temperatureWords(units, system, lines.cold_c);
  const hot = flowAs(units, system, line.flow_l_min);
  const cold = line.cold_flow_l_min === null ? null : flowAs(units, system, line.cold_flow_l_min);
  const takes = (bar: number | null): Shown | null =>
    bar === null ? null : shownAs(units, "loss_bar", system, bar, 1);
  const [loss, slow] = [takes(line.loss_bar), takes(line.cold_loss_bar)];
  const fast = (speed: number): Shown => flowSpeedAs(units, system, speed);
  return (
    <>
      <Told
        label={`Hot, ${Math.round(lines.hot_rpm)} rpm`}
        value={hot.figure}
        unit={hot.unit}
        wanted={
          line.speed_m_s === null
            ? "no speed without a size"
            : `${fast(line.speed_m_s).figure} ${fast(1).unit}${line.speed_most_m_s === null ? "" : `, at most ${fast(line.speed_most_m_s).figure}`}`
        }
      />
      {loss && <Told label="Takes, hot" value={loss.figure} unit={loss.unit} />}
      {slow && cold && (
        <Told
          label={`Takes, ${warmth}, ${lines.cold_rpm} rpm`}
          value={slow.figure}
          unit={slow.unit}
          wanted={`${cold.figure} ${cold.unit}`}
        />
      )}
    </>
  );
}

type Check = Line["checks"][number];

function CheckRow({ check }: { check: Check }): ReactElement {
  return (
    <li className="flex gap-2 py-0.5 text-[14px]">
      <Mark state={check.state} size={16} />
      <span className="first-letter:uppercase">
        <InUnits words={check.words} />
        {check.state !== "good" && (
          <span className="block text-[13px] text-ink-2">{check.source}</span>
        )}
      </span>
    </li>
  );
}

/** What is wrong in full, what is sound folded away. */
function Checks({ line }: { line: Line }): ReactElement {
  const wrong = line.checks.filter(({ state }) => state !== "good");
  const good = line.checks.filter(({ state }) => state === "good");
  const rows = (checks: readonly Check[]): ReactElement[] =>
    checks.map((check, at) => <CheckRow key={`${check.words} ${at}`} check={check} />);
  return (
    <div className="px-4 py-2">
      <ul aria-label={`What is wrong with line ${line.number}`}>{rows(wrong)}</ul>
      {good.length > 0 && (
        <details>
          <summary className="flex items-center gap-2 py-0.5 text-[14px]">
            <Mark state="good" size={16} />
            {good.length} sound
          </summary>
          <ul aria-label={`What is sound of line ${line.number}`}>{rows(good)}</ul>
        </details>
      )}
    </div>
  );
}

/** One line: what it is, where it goes, its ends, and all that is said of it. */
export function LineNumbers({
  line,
  lines,
  lay,
}: {
  line: Line;
  lines: Lines;
  lay: Lay;
}): ReactElement {
  const { system, units } = useSettings();
  const isLaid = line.points.length > 0;
  const isHose = line.kind === "hose";
  const least = lengthAs(units, system, line.least_mm);
  const figure = (label: string, field: string, value: number | null, note?: string) => (
    <EditFigure
      label={label}
      field={field}
      value={value}
      note={note}
      onType={(typed) => lay.type({ [field]: typed })}
    />
  );
  return (
    <div>
      <div className="px-4 pt-3">
        <h2 className="font-figure text-[18px] font-semibold">
          {line.number} {line.name}
        </h2>
        <p className="text-[13px] text-ink-2">
          {line.ends[0].name} to {line.ends[1].name}, {line.service}
        </p>
      </div>
      <Checks line={line} />
      <div className="border-t border-ink px-4 py-2">
        <Choice
          label="Made of"
          value={line.kind}
          choices={MADE_OF}
          onChoose={(kind) => lay.lay({ made_of: kind })}
        />
        <Choice<SizeKey>
          label="Size, dash"
          value={(line.dash === null ? "" : String(line.dash)) as SizeKey}
          choices={SIZES}
          onChoose={(size) => {
            if (size !== "") lay.lay({ dash: Number(size) as 10 });
          }}
        />
        {isLaid ? (
          <Told
            label={isHose ? "Length, slack in it" : "Length along its middle"}
            {...(({ figure: value, unit }) => ({ value, unit }))(
              lengthAs(units, system, line.length_mm ?? 0),
            )}
            wanted={`bends to ${least.figure} ${least.unit} at least`}
          />
        ) : (
          figure("Length, rough", "length_mm", line.length_mm, "or lay it on the drawing")
        )}
        {isHose && figure("Slack", "slack_mm", line.slack_mm)}
        {!isHose && figure("Wall of the tube", "wall_mm", line.wall_mm)}
        {figure("A clip every", "clips_mm", line.clips_mm)}
        <label className="flex items-center justify-between border-b border-hair py-1.5 text-[14px] text-ink-2">
          Heat sleeve
          <input
            type="checkbox"
            checked={line.sleeve}
            onChange={(event) => lay.lay({ sleeve: event.target.checked })}
          />
        </label>
        <Flows line={line} lines={lines} />
        {lay.fault && (
          <p role="alert" className="py-1 text-[14px] text-bad">
            {lay.fault}
          </p>
        )}
      </div>
      <section aria-label="Its way" className="border-t border-ink px-4 py-2">
        <h3 className="font-figure text-[16px] font-semibold">Its way in the car</h3>
        {isLaid ? (
          <PointsTable line={line} lay={lay} />
        ) : (
          <p className="py-1 text-[14px]">
            Not laid.{" "}
            <Button
              className="ml-1"
              onClick={() => lay.lay({ points: firstWay(line, lines.pan_plan_mm) as never })}
            >
              Lay it
            </Button>
          </p>
        )}
      </section>
      <PutInLine line={line} lay={lay} />
      {!isHose && <BendingSheet line={line} />}
      {(["start", "end"] as const).map((which, at) => {
        const end = line.ends[at];
        return (
          end && (
            <EndNumbers
              key={which}
              which={which}
              end={end}
              line={line}
              threads={lines.threads}
              lay={lay}
            />
          )
        );
      })}
    </div>
  );
}
