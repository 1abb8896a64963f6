import { useRef, useState, type ReactElement, type ReactNode } from "react";
import { Refusal, wordsOf } from "../../api/client";
import { useDeleteLap, useLap, useRenameLap, type LapDetail } from "../../api/logs";
import { Button } from "../../parts/Button";
import type { Table } from "../../parts/csv";
import { Dialog } from "../../parts/Dialog";
import { InUnits } from "../../parts/InUnits";
import { Notice, Waiting } from "../../parts/Notice";
import { ReadOut } from "../../parts/ReadOut";
import { TrackLine } from "../../plots/TrackLine";
import { alongEngine, GripCloud, heldToward, type NosePoints } from "../../plots/GripCloud";
import { CornerTable } from "./CornerTable";
import { lapTime } from "./reading";

const SIDES: [string, number][] = [
  ["braking", 0],
  ["gaining speed", 180],
  ["left turn", 270],
  ["right turn", 90],
];

/** How much is held in each of the car's four directions, and for how long. */
function HeldTable({ lap }: { lap: LapDetail }): ReactElement {
  const columns = SIDES.map(([, deg]) => heldToward(lap.held, deg));
  return (
    <table className="text-[14px]">
      <caption className="pb-1 text-left text-ink-2">
        Held without a break, in g. The heavier the line, the longer.
      </caption>
      <thead>
        <tr className="border-b border-ink text-right font-figure text-ink-2">
          <th className="pr-4 text-left font-medium">for</th>
          {SIDES.map(([words]) => (
            <th key={words} className="pl-3 font-medium">
              {words}
            </th>
          ))}
        </tr>
      </thead>
      <tbody className="font-figure text-[15px]">
        {lap.held.holds_s.map((hold, index) => (
          <tr key={hold} className="border-b border-hair text-right">
            <th scope="row" className="pr-4 text-left font-medium">
              {hold} s
            </th>
            {columns.map((column, side) => (
              <td key={SIDES[side]?.[0]} className="pl-3">
                {(column[index] ?? 0).toFixed(2)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Name({ lap }: { lap: LapDetail }): ReactElement {
  const rename = useRenameLap();
  return (
    <>
      <input
        key={lap.name}
        defaultValue={lap.name}
        maxLength={120}
        aria-label="Name of the lap"
        className="w-full min-w-0 flex-1 border-b border-dotted border-ink bg-transparent font-figure text-[22px] font-semibold"
        onBlur={(event) => {
          const name = event.target.value.trim();
          if (name === "") event.target.value = lap.name;
          else if (name !== lap.name) rename.mutate({ lapId: lap.id, name, baseName: lap.name });
        }}
        onKeyDown={(event) => {
          if (event.key === "Enter") event.currentTarget.blur();
        }}
      />
      {rename.error && (
        <span role="alert" className="text-[13px] text-bad">
          {wordsOf(rename.error)}
        </span>
      )}
    </>
  );
}

function Remove({ lap, onGone }: { lap: LapDetail; onGone: () => void }): ReactElement {
  const remove = useDeleteLap();
  const [asking, setAsking] = useState(false);
  const used = remove.error instanceof Refusal && remove.error.status === 409;
  return (
    <>
      <Button look="bare" className="underline" onClick={() => setAsking(true)}>
        remove
      </Button>
      {asking && (
        <Dialog title={`Remove ${lap.name}?`} onClose={() => setAsking(false)}>
          <div className="p-4">
            <p>The lap and its forecasts go; the logger’s file on your own disk stays.</p>
            {remove.error && <Notice kind="bad">{wordsOf(remove.error)}</Notice>}
            <Button
              look="bad"
              className="mt-3"
              disabled={remove.isPending}
              onClick={() =>
                remove.mutate({ lapId: lap.id, evenIfUsed: used }, { onSuccess: onGone })
              }
            >
              {used ? "Remove it all the same" : "Remove the lap"}
            </Button>
          </div>
        </Dialog>
      )}
    </>
  );
}

function Drawn({
  title,
  table,
  children,
}: {
  title: string;
  table: () => Table;
  children: ReactNode;
}): ReactElement {
  const drawing = useRef<HTMLDivElement>(null);
  return (
    <figure className="min-w-0">
      <figcaption className="flex items-center gap-2 font-figure text-[16px] font-semibold">
        {title}
        <ReadOut name={title} table={table} drawing={drawing} />
      </figcaption>
      <div ref={drawing}>{children}</div>
    </figure>
  );
}

/** A lap to look at: what the car does on it, where, and for how long. */
export function LapView({
  lapId,
  nose,
  isShown,
  judged,
  onJudge,
  onSee,
  onGone,
  extra,
}: {
  lapId: number;
  /** Where the crank's nose points in the car. */
  nose: NosePoints;
  /** On Slosh. */
  isShown: boolean;
  /** Among the laps that the build is judged by. */
  judged: boolean;
  /** Shows it, and judges by it. */
  onJudge: () => void;
  onSee: () => void;
  onGone: () => void;
  extra: ReactNode;
}): ReactElement {
  const query = useLap(lapId);
  const [picked, setPicked] = useState<number | null>(null);
  const [axes, setAxes] = useState<"car" | "engine">("car");
  const lap = query.data;
  if (!lap)
    return (
      <Waiting
        error={query.error ? wordsOf(query.error) : null}
        what="the lap"
        onRetry={() => void query.refetch()}
      />
    );
  const cloudTable = (): Table => ({
    title: "Highest load held, g",
    headings: [
      "thrown toward [deg, 0 forward, to the left]",
      ...lap.held.holds_s.map((s) => `for ${s} s [g]`),
    ],
    rows: lap.held.thrown_deg.map((deg, at) => [
      deg,
      ...lap.held.load_g.map((row) => row[at] ?? 0),
    ]),
  });
  return (
    <section aria-label={`Lap ${lap.name}`}>
      <div className="flex flex-wrap items-center gap-3">
        <Name lap={lap} />
        <span className="font-figure text-[18px]">{lapTime(lap.duration_s)}</span>
        <Button look="main" onClick={isShown ? onSee : onJudge}>
          {judged ? "See where the oil goes" : "Judge by it"}
        </Button>
        {extra}
        <Remove lap={lap} onGone={onGone} />
      </div>
      <p className="mt-1 text-ink-2">
        <InUnits words={lap.sentences.join(" ")} />
        {lap.has_vertical ? " Crests and dips are in it: vertical g was logged." : ""}
      </p>
      {lap.doubts.map((doubt) => (
        <div key={doubt} className="mt-2 max-w-2xl">
          <Notice kind="caution">{doubt}</Notice>
        </div>
      ))}
      <div className="mt-3 grid gap-x-8 gap-y-4 xl:grid-cols-[auto_minmax(0,1fr)]">
        <div className="flex flex-col gap-3">
          <Drawn title="Loads, and what is held" table={cloudTable}>
            <GripCloud
              axes={axes}
              size={360}
              {...(axes === "car"
                ? { cloud: lap.cloud_g, held: lap.held }
                : alongEngine(lap.cloud_g, lap.held, nose))}
            />
          </Drawn>
          <div role="group" aria-label="Whose axes" className="flex gap-3 font-figure text-[14px]">
            {(["car", "engine"] as const).map((whose) => (
              <button
                key={whose}
                type="button"
                aria-pressed={axes === whose}
                onClick={() => setAxes(whose)}
                className={`border-b-2 ${axes === whose ? "border-ink font-semibold" : "border-transparent text-ink-2"}`}
              >
                along the {whose}
              </button>
            ))}
          </div>
          <HeldTable lap={lap} />
        </div>
        <div className="flex min-w-0 flex-col gap-3">
          <Drawn
            title={lap.from_gps ? "Line driven, from GPS" : "Line driven, from speed and side g"}
            table={() => ({ title: "Line driven", headings: ["x [m]", "y [m]"], rows: lap.line_m })}
          >
            <TrackLine
              line={lap.line_m}
              marks={[]}
              here={null}
              width={370}
              height={260}
              labels={lap.corners.map((corner) => ({
                at: corner.apex_m,
                words: corner.name ?? String(corner.number),
                hand: corner.hand,
                picked: corner.number === picked,
              }))}
            />
          </Drawn>
          <CornerTable lap={lap} picked={picked} onPick={setPicked} />
        </div>
      </div>
    </section>
  );
}
