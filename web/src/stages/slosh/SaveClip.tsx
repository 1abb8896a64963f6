import { useId, useRef, useState, type ReactElement, type RefObject } from "react";
import { Button } from "../../parts/Button";
import { fileNameOf } from "../../parts/csv";
import { Dialog } from "../../parts/Dialog";
import { saveFile } from "../../parts/picture";
import { Progress } from "../../parts/Progress";
import { SPEEDS, type Speed } from "../../parts/usePlay";
import { clipFault, clipTimes, makeClip, type ClipKind, type ClipWish } from "./clip";
import { clipPainter, untilPainted, type ClipWords } from "./clipPicture";

type Stage =
  | { is: "asked" }
  | { is: "made"; count: number }
  | { is: "saved"; words: string }
  | { is: "failed"; words: string };

const AROUND = 2; // [s] before and after the moment shown, to begin with

function Choice<Value extends string | number>({
  legend,
  value,
  choices,
  onValue,
}: {
  legend: string;
  value: Value;
  choices: readonly (readonly [Value, string])[];
  onValue: (value: Value) => void;
}): ReactElement {
  const name = useId();
  return (
    <fieldset className="flex flex-wrap items-center gap-x-4">
      <legend className="float-left mr-4 w-16 text-ink-2">{legend}</legend>
      {choices.map(([each, words]) => (
        <label key={each} className="flex items-center gap-1.5">
          <input
            type="radio"
            name={name}
            checked={value === each}
            onChange={() => onValue(each)}
            className="accent-ink"
          />
          {words}
        </label>
      ))}
    </fieldset>
  );
}

/** Asks which part of the lap is wanted, and how; then makes the clip and saves it. */
export function SaveClip({
  name,
  time,
  duration,
  drawn,
  told,
  onTime,
  onClose,
}: {
  name: string;
  time: number;
  duration: number;
  /** The element that holds the pictures. */
  drawn: RefObject<HTMLElement | null>;
  /** What is said of the moment shown, as it is then. */
  told: RefObject<ClipWords>;
  onTime: (time: number) => void;
  onClose: () => void;
}): ReactElement {
  const [from, setFrom] = useState(() => Math.max(0, time - AROUND).toFixed(1));
  const [to, setTo] = useState(() => Math.min(duration, time + AROUND).toFixed(1));
  const [speed, setSpeed] = useState<Speed>(1);
  const [kind, setKind] = useState<ClipKind>("webm");
  const [stage, setStage] = useState<Stage>({ is: "asked" });
  const stop = useRef<AbortController | null>(null);
  const wish: ClipWish = {
    fromS: from.trim() === "" ? NaN : Number(from.replace(",", ".")),
    toS: to.trim() === "" ? NaN : Number(to.replace(",", ".")),
    speed,
    kind,
  };
  const fault = clipFault(wish, duration);
  const total = fault === null ? clipTimes(wish).length : 0;

  async function make(): Promise<void> {
    const root = drawn.current;
    if (!root) return;
    const before = time;
    const control = new AbortController();
    stop.current = control;
    setStage({ is: "made", count: 0 });
    try {
      const show = async (at: number): Promise<void> => {
        onTime(at);
        await untilPainted(root, at);
      };
      const clip = await makeClip(
        wish,
        show,
        clipPainter(root, () => told.current),
        (count) => setStage({ is: "made", count }),
        control.signal,
      );
      const file = fileNameOf(
        `${name} ${wish.fromS.toFixed(1)} to ${wish.toS.toFixed(1)} s`,
        kind === "webm" ? "webm" : "zip",
      );
      saveFile(file, clip);
      setStage({ is: "saved", words: `${file}, ${(clip.size / 1e6).toFixed(1)} MB, is saved.` });
    } catch (error) {
      if (control.signal.aborted) setStage({ is: "asked" });
      else
        setStage({
          is: "failed",
          words: error instanceof Error ? error.message : "The clip could not be made.",
        });
    } finally {
      onTime(before);
    }
  }

  const end = (label: string, value: string, set: (value: string) => void): ReactElement => (
    <label className="flex items-center gap-2">
      <span className="w-16 text-ink-2">{label}</span>
      <input
        inputMode="decimal"
        value={value}
        onChange={(event) => set(event.target.value)}
        className="w-20 border-b border-ink bg-transparent text-right font-figure text-[16px]"
      />
      s
    </label>
  );
  return (
    <Dialog
      title="Save a clip"
      onClose={() => {
        stop.current?.abort();
        onClose();
      }}
    >
      <div className="flex flex-col gap-3 p-4 text-[15px]">
        {stage.is === "made" ? (
          <Progress
            doing={`Picture ${stage.count} of ${total}:`}
            share={total > 0 ? stage.count / total : 0}
            onCancel={() => stop.current?.abort()}
          />
        ) : (
          <>
            {end("from", from, setFrom)}
            {end("to", to, setTo)}
            <Choice
              legend="speed"
              value={speed}
              choices={SPEEDS.map((each) => [each, each === 1 ? "real" : "a quarter"] as const)}
              onValue={setSpeed}
            />
            <Choice
              legend="as"
              value={kind}
              choices={[
                ["webm", "a WebM film"],
                ["png", "PNG pictures in a ZIP"],
              ]}
              onValue={setKind}
            />
            <p className={fault ? "text-bad" : "text-ink-2"} role={fault ? "alert" : undefined}>
              {fault ?? `${total} pictures of what the sheet shows now, with their words.`}
            </p>
            {stage.is === "saved" && <p role="status">{stage.words}</p>}
            {stage.is === "failed" && (
              <p role="alert" className="text-bad">
                {stage.words}
              </p>
            )}
            <Button look="main" disabled={fault !== null} onClick={() => void make()}>
              Save the clip
            </Button>
          </>
        )}
      </div>
    </Dialog>
  );
}
