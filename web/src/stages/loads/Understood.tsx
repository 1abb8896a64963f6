import { useRef, useState, type ReactElement } from "react";
import type { Reading, Understood as UnderstoodOut } from "../../api/logs";
import { Button } from "../../parts/Button";
import type { Table } from "../../parts/csv";
import { Notice } from "../../parts/Notice";
import { ReadOut } from "../../parts/ReadOut";
import { TrackLine } from "../../plots/TrackLine";
import { Columns } from "./Columns";
import { headingOf, lapTime, wantedLaps, type Guess, type WantedLap } from "./reading";
import { SensorFrame } from "./SensorFrame";

/** The line as it was understood, to look at and to read out. */
function DrivenLine({ understood }: { understood: UnderstoodOut }): ReactElement {
  const drawn = useRef<HTMLDivElement>(null);
  const how = understood.from_gps ? "from GPS" : "from speed and side g";
  const table = (): Table => ({
    title: `Line driven, ${how}`,
    headings: ["x [m]", "y [m]"],
    rows: understood.line_m,
  });
  return (
    <figure>
      <div ref={drawn} className="flex items-start">
        <TrackLine line={understood.line_m} marks={[]} here={null} width={260} height={190} />
        <ReadOut name="Line driven" table={table} drawing={drawn} />
      </div>
      <figcaption className="text-[13px] text-ink-2">Line driven, {how}.</figcaption>
    </figure>
  );
}

function BadRows({
  understood,
  agreed,
  onAgree,
}: {
  understood: UnderstoodOut;
  agreed: boolean;
  onAgree: (agreed: boolean) => void;
}): ReactElement | null {
  const { bad_rows: count, bad_row_faults: faults } = understood;
  if (count === 0) return null;
  return (
    <div className="mt-4">
      <Notice
        kind="caution"
        title={count === 1 ? "One row cannot be read" : `${count} rows cannot be read`}
      >
        <ul>
          {faults.map((fault) => (
            <li key={fault.field + fault.message}>
              {fault.field}: {fault.message}
            </li>
          ))}
          {count > faults.length && <li>and {count - faults.length} more</li>}
        </ul>
        <label className="mt-1 flex items-center gap-2 font-medium">
          <input
            type="checkbox"
            checked={agreed}
            onChange={(event) => onAgree(event.target.checked)}
            className="size-4 accent-[var(--ink)]"
          />
          leave {count === 1 ? "it" : "them"} out and draw straight across
        </label>
      </Notice>
    </div>
  );
}

/** What the file does not say, each with the reason; one press takes it all. */
function Guesses({
  guesses,
  accepted,
  onAccept,
}: {
  guesses: UnderstoodOut["guesses"];
  accepted: boolean;
  onAccept: (accepted: boolean) => void;
}): ReactElement | null {
  if (guesses.length === 0) return null;
  return (
    <div className="mt-4" data-guesses>
      <Notice kind="caution" title="The file does not say all; guessed from its numbers">
        <ul className="list-disc pl-5">
          {guesses.map(({ field, words }) => (
            <li key={field}>{words}</li>
          ))}
        </ul>
        <label className="mt-1 flex items-center gap-2 font-medium">
          <input
            type="checkbox"
            checked={accepted}
            onChange={(event) => onAccept(event.target.checked)}
            className="size-4 accent-[var(--ink)]"
          />
          {guesses.length === 1 ? "that is right" : "all of that is right"}
        </label>
      </Notice>
    </div>
  );
}

function LapsFound({
  laps,
  onChange,
}: {
  laps: WantedLap[];
  onChange: (laps: WantedLap[]) => void;
}): ReactElement {
  const set = (number: number, change: Partial<WantedLap>): void =>
    onChange(laps.map((lap) => (lap.number === number ? { ...lap, ...change } : lap)));
  return (
    <ul className="mt-1 border-t border-hair">
      {laps.map((lap) => (
        <li key={lap.number} className="flex items-center gap-3 border-b border-hair py-1">
          <input
            type="checkbox"
            aria-label={`Keep lap ${lap.number}`}
            checked={lap.wanted}
            onChange={(event) => set(lap.number, { wanted: event.target.checked })}
            className="size-4 accent-[var(--ink)]"
          />
          <input
            value={lap.name}
            maxLength={120}
            aria-label={`Name of lap ${lap.number}`}
            onChange={(event) => set(lap.number, { name: event.target.value })}
            className="h-8 min-w-0 flex-1 border-b border-dotted border-ink bg-transparent px-1"
          />
          <span className="font-figure text-[15px]">{lapTime(lap.end_s - lap.start_s)}</span>
          <span className="w-32 text-[13px] text-ink-2">
            from {lap.start_s.toFixed(1)} s{lap.whole ? "" : ", not whole"}
          </span>
        </li>
      ))}
    </ul>
  );
}

/** What a file was understood to hold, in words and as a line, everything open to change. */
export function Understood({
  understood,
  fileName,
  busy,
  onChange,
  onKeep,
}: {
  understood: UnderstoodOut;
  fileName: string;
  busy: boolean;
  onChange: (reading: Reading) => void;
  onKeep: (laps: WantedLap[], leaveOutBadRows: boolean) => void;
}): ReactElement {
  const [agreed, setAgreed] = useState(false);
  const [right, setRight] = useState<readonly string[]>([]);
  const [edited, setEdited] = useState<{ of: UnderstoodOut["laps"]; laps: WantedLap[] }>();
  const laps = edited?.of === understood.laps ? edited.laps : wantedLaps(understood.laps, fileName);
  const wanted = laps.filter((lap) => lap.wanted);
  const { reading, faults, guesses } = understood;
  /** What a guess says: another one, or the same of another column, wants its own yes. */
  const said = (guess: Guess): string =>
    `${guess.field} ${guess.taken} ${headingOf(guess, reading)}`;
  const accepted = guesses.every((guess) => right.includes(said(guess)));
  const others = faults.filter(
    ({ field }) => !field.startsWith("channels.") && !field.startsWith("sensor"),
  );
  const ready =
    wanted.length > 0 &&
    wanted.every((lap) => lap.name.trim() !== "") &&
    (understood.bad_rows === 0 || agreed) &&
    accepted;
  return (
    <div aria-busy={busy}>
      <p className="mb-2 text-[14px] text-ink-2">
        {understood.file_words}
        {understood.remembered && " Read as you read such a file the last time."}
      </p>
      <Columns understood={understood} reading={reading} onChange={onChange} />
      <SensorFrame
        reading={reading}
        fault={faults.find(({ field }) => field.startsWith("sensor"))?.message}
        onChange={onChange}
      />
      {others.length > 0 && (
        <div className="mt-4">
          <Notice kind="bad" title="The file cannot be used as it is">
            <ul>
              {others.map((fault) => (
                <li key={fault.field + fault.message}>
                  {fault.field}: {fault.message}
                </li>
              ))}
            </ul>
          </Notice>
        </div>
      )}
      <Guesses
        guesses={guesses}
        accepted={accepted}
        onAccept={(all) => setRight(all ? guesses.map(said) : [])}
      />
      <BadRows understood={understood} agreed={agreed} onAgree={setAgreed} />
      {understood.sentences.length > 0 && (
        <div className="mt-4 flex flex-wrap items-start gap-6">
          <DrivenLine understood={understood} />
          <div className="min-w-[300px] flex-1">
            <h2 className="font-figure text-[18px] font-semibold">Understood</h2>
            {[...understood.sentences, ...understood.remarks].map((sentence) => (
              <p key={sentence} className="mt-1">
                {sentence}
              </p>
            ))}
            {understood.doubts.map((doubt) => (
              <div key={doubt} className="mt-2">
                <Notice kind="caution" title="Caution">
                  {doubt}
                </Notice>
              </div>
            ))}
            <p className="mt-2 text-[14px] text-ink-2">
              Does it turn the wrong way? Change what plus means. Accelerations are smoothed over
              0.1 s.
            </p>
            <h3 className="mt-3 font-figure text-[16px] font-semibold">
              {laps.length === 1 ? "One lap" : `${laps.length} stretches, parted by laps`}
            </h3>
            <LapsFound
              laps={laps}
              onChange={(next) => setEdited({ of: understood.laps, laps: next })}
            />
            <Button
              look="main"
              className="mt-3"
              disabled={busy || !ready}
              onClick={() => onKeep(wanted, agreed)}
            >
              {busy
                ? "Keeping…"
                : wanted.length > 1
                  ? `Keep ${wanted.length} laps, judge by the last`
                  : "Keep it and judge by this lap"}
            </Button>
            {!accepted && (
              <p className="mt-1 text-[13px] text-ink-2">
                Say above whether the guesses are right.
              </p>
            )}
            {understood.bad_rows > 0 && !agreed && (
              <p className="mt-1 text-[13px] text-ink-2">
                Say above what is to be done with the rows that cannot be read.
              </p>
            )}
          </div>
        </div>
      )}
    </div>
  );
}
