import { useEffect, useRef, useState, type ReactElement } from "react";
import { Refusal, wordsOf, type Schemas } from "../../api/client";
import { useEditCorners, type LapDetail } from "../../api/logs";
import { Button } from "../../parts/Button";

type Corner = LapDetail["corners"][number];
type CornerIn = Schemas["CornerIn"];

const cornersIn = (count: number): string =>
  count === 0 ? "No corners" : count === 1 ? "1 corner" : `${count} corners`;

const asSent = (corners: readonly Corner[]): CornerIn[] =>
  corners.map(({ name, start_s, end_s }) => ({ name, start_s, end_s }));

/** A corner between the longest gap's ends, for one that was not found. */
export function cornerInLongestGap(corners: readonly CornerIn[], duration: number): CornerIn {
  const edges = [0, ...corners.flatMap((c) => [c.start_s, c.end_s]), duration];
  let [from, to] = [0, 0];
  for (let i = 0; i < edges.length - 1; i += 2) {
    const [a, b] = [edges[i] ?? 0, edges[i + 1] ?? 0];
    if (b - a > to - from) [from, to] = [a, b];
  }
  const third = (to - from) / 3;
  const round = (s: number): number => Math.round(s * 10) / 10;
  return { name: null, start_s: round(from + third), end_s: round(to - third) };
}

function Cell({
  label,
  value,
  of,
  width,
  onSet,
}: {
  label: string;
  value: string;
  of: LapDetail;
  width: string;
  onSet: (text: string) => void;
}): ReactElement {
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => {
    // what was refused goes once the lap is another
    const { current } = field;
    if (current && current !== document.activeElement) current.value = value;
  }, [of, value]);
  return (
    <input
      ref={field}
      key={value}
      defaultValue={value}
      aria-label={label}
      maxLength={60}
      className={`${width} border-b border-dotted border-ink bg-transparent font-figure text-[15px]`}
      onBlur={(event) => {
        if (event.target.value.trim() !== value) onSet(event.target.value.trim());
      }}
      onKeyDown={(event) => {
        if (event.key === "Enter") event.currentTarget.blur();
        if (event.key === "Escape") {
          event.currentTarget.value = value;
          event.currentTarget.blur();
        }
      }}
    />
  );
}

/** Corners as found or as said: names and places to edit. */
export function CornerTable({
  lap,
  picked,
  onPick,
}: {
  lap: LapDetail;
  picked: number | null;
  onPick: (number: number | null) => void;
}): ReactElement {
  const edit = useEditCorners();
  const [refused, setRefused] = useState<string | null>(null);
  function send(corners: CornerIn[] | null): void {
    edit.mutate(
      { lapId: lap.id, corners },
      {
        onSuccess: () => setRefused(null),
        onError: (error) =>
          setRefused(
            error instanceof Refusal
              ? (error.problems[0]?.message ?? error.message)
              : wordsOf(error),
          ),
      },
    );
  }
  function change(index: number, part: Partial<CornerIn>): void {
    send(asSent(lap.corners).map((corner, at) => (at === index ? { ...corner, ...part } : corner)));
  }
  const seconds = (index: number, key: "start_s" | "end_s", text: string): void => {
    const value = Number(text.replace(",", ".").replace(/\s*s$/, ""));
    if (text === "" || !Number.isFinite(value))
      setRefused(`“${text}” is no number of seconds; nothing was changed.`);
    else change(index, { [key]: value });
  };
  return (
    <section aria-labelledby="corners" className="min-w-0">
      <h2 id="corners" className="font-figure text-[18px] font-semibold">
        {cornersIn(lap.corners.length)}
      </h2>
      {lap.corners.length > 0 && (
        <table className="w-full text-[14px]">
          <thead>
            <tr className="border-b border-ink text-left font-figure text-ink-2">
              <th className="font-medium">Name</th>
              <th className="px-2 font-medium">Hand</th>
              <th className="font-medium">From, s</th>
              <th className="font-medium">To, s</th>
              <th className="pr-2 text-right font-medium">Peak</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {lap.corners.map((corner, index) => (
              <tr
                key={corner.number}
                className={`border-b border-hair ${picked === corner.number ? "bg-panel" : ""}`}
                onMouseEnter={() => onPick(corner.number)}
                onMouseLeave={() => onPick(null)}
                onFocus={() => onPick(corner.number)}
              >
                <td className="py-0.5">
                  <Cell
                    label={`Name of corner ${corner.number}`}
                    value={corner.name ?? `corner ${corner.number}`}
                    of={lap}
                    width="w-24"
                    onSet={(name) =>
                      change(index, { name: /^corner \d+$/.test(name) ? null : name || null })
                    }
                  />
                </td>
                <td className="px-2 font-figure">{corner.hand}</td>
                <td>
                  <Cell
                    label={`Start of corner ${corner.number}`}
                    value={corner.start_s.toFixed(1)}
                    of={lap}
                    width="w-14"
                    onSet={(text) => seconds(index, "start_s", text)}
                  />
                </td>
                <td>
                  <Cell
                    label={`End of corner ${corner.number}`}
                    value={corner.end_s.toFixed(1)}
                    of={lap}
                    width="w-14"
                    onSet={(text) => seconds(index, "end_s", text)}
                  />
                </td>
                <td className="pr-2 text-right font-figure whitespace-nowrap">
                  {corner.peak_g.toFixed(2)} g
                </td>
                <td>
                  <Button
                    look="bare"
                    className="min-h-0 px-1 py-0"
                    aria-label={`Remove corner ${corner.number}`}
                    onClick={() => send(asSent(lap.corners).filter((_, at) => at !== index))}
                  >
                    remove
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <div className="mt-1 flex gap-2">
        <Button
          look="bare"
          className="px-0 underline"
          onClick={() =>
            send(
              [
                ...asSent(lap.corners),
                cornerInLongestGap(asSent(lap.corners), lap.duration_s),
              ].sort((a, b) => a.start_s - b.start_s),
            )
          }
        >
          add a corner
        </Button>
        {lap.corners_edited && (
          <Button look="bare" className="underline" onClick={() => send(null)}>
            find them again
          </Button>
        )}
      </div>
      {refused && (
        <p role="alert" className="text-[13px] text-bad">
          {refused}
        </p>
      )}
    </section>
  );
}
