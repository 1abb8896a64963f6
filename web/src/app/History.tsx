import { momentWords } from "../parts/days";
import { useState, type ReactElement } from "react";
import { wordsOf } from "../api/client";
import { useDifferences, useHistory, type BuildOut, type StateRow } from "../api/queries";
import { Button } from "../parts/Button";
import { Dialog } from "../parts/Dialog";
import { Waiting } from "../parts/Notice";
import { useSettings } from "../parts/settings";
import { InUnits } from "../parts/InUnits";
import { SideBySide } from "./SideBySide";

function Row({
  row,
  shown,
  isCar,
  onShow,
  onCar,
}: {
  row: StateRow;
  shown: boolean;
  /** The car is in this state. */
  isCar: boolean;
  onShow: () => void;
  onCar: () => void;
}): ReactElement {
  const when = momentWords(row.made_at);
  return (
    <li
      aria-current={shown || undefined}
      className={`flex items-center gap-3 border-b border-hair px-4 py-1.5 ${shown ? "bg-ink text-paper" : ""}`}
    >
      <span className="w-10 shrink-0 font-figure text-[18px] font-semibold">{row.number}</span>
      <span className={`min-w-0 flex-1 ${row.on_way || shown ? "" : "text-ink-2"}`}>
        {row.revision && (
          <strong className="font-figure text-[16px] font-semibold">
            R{row.revision.number} · {row.revision.name}{" "}
          </strong>
        )}
        <span className="text-[14px] [overflow-wrap:anywhere]">
          <InUnits words={row.change} />
        </span>
        <span className={`block text-[13px] ${shown ? "" : "text-ink-2"}`}>
          {row.made_by}, {when}
          {isCar ? "" : row.aside ? ", kept aside" : row.on_way ? "" : ", undone"}
        </span>
      </span>
      {isCar ? (
        <span className="text-[13px] font-semibold">the car</span>
      ) : (
        <Button
          look="bare"
          className={`text-[13px] leading-tight underline ${shown ? "text-paper" : ""}`}
          aria-label={`car is so: state ${row.number}`}
          title="say that the car is built like this"
          onClick={onCar}
        >
          car is so
        </Button>
      )}
      {shown ? (
        <span className="text-[13px]">shown</span>
      ) : (
        <Button aria-label={`Show state ${row.number}`} onClick={onShow}>
          Show
        </Button>
      )}
    </li>
  );
}

/** Which state the car is in, and what it takes to get from there to what is shown. */
function TheCar({ build }: { build: BuildOut }): ReactElement {
  const { system } = useSettings();
  const differences = useDifferences(build, system);
  const words = "border-b border-ink px-4 py-2 text-[14px]";
  if (build.as_is === null)
    return (
      <p className={`${words} text-ink-2`}>
        Nobody has said which state the car is in. What is found out of it later holds there too.
      </p>
    );
  if (build.as_is === build.state) return <p className={words}>The car is as shown.</p>;
  if (!differences.data)
    return (
      <p className={words} role={differences.error ? "alert" : "status"}>
        {differences.error ? wordsOf(differences.error) : "Looking at what differs…"}
      </p>
    );
  if (differences.data.length === 0)
    return <p className={words}>The car is like state {build.as_is}: built as what is shown.</p>;
  return (
    <div className={words}>
      <p>The car is like state {build.as_is}. To what is shown it takes:</p>
      <ul className="max-h-40 list-disc overflow-y-auto pl-5">
        {differences.data.map(({ field, words: difference }) => (
          <li key={field}>{difference}</li>
        ))}
      </ul>
    </div>
  );
}

/** Every state of the build with what changed, and naming the one that is shown. */
export function History({
  build,
  onShow,
  onCar,
  onName,
  onClose,
}: {
  build: BuildOut;
  onShow: (state: number) => void;
  /** Says that the car is in a state. */
  onCar: (state: number) => void;
  onName: (name: string) => void;
  onClose: () => void;
}): ReactElement {
  const history = useHistory(build);
  const own = build.revision?.state === build.state ? build.revision : null;
  const [name, setName] = useState(own?.name ?? "");
  return (
    <Dialog title="Revisions and history" onClose={onClose}>
      <form
        className="flex items-end gap-2 border-b border-ink px-4 py-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (name.trim()) onName(name.trim());
        }}
      >
        <label className="min-w-0 flex-1 text-[14px] text-ink-2">
          {own ? `Name of R${own.number}` : `Name state ${build.state} as a revision`}
          <input
            data-first
            value={name}
            maxLength={60}
            placeholder="as raced"
            onChange={(event) => setName(event.target.value)}
            className="mt-1 block h-9 w-full border border-ink bg-paper px-2 text-ink placeholder:text-ink-2"
          />
        </label>
        <Button
          look="main"
          type="submit"
          disabled={name.trim() === "" || name.trim() === own?.name}
        >
          {own ? "Rename" : "Name it"}
        </Button>
      </form>
      <TheCar build={build} />
      {history.data && history.data.length > 1 && <SideBySide build={build} rows={history.data} />}
      {history.data ? (
        <ol aria-label="States, newest first">
          {history.data.map((row) => (
            <Row
              key={row.number}
              row={row}
              shown={row.number === build.state}
              isCar={row.number === build.as_is}
              onShow={() => onShow(row.number)}
              onCar={() => onCar(row.number)}
            />
          ))}
        </ol>
      ) : (
        <Waiting
          error={history.error ? wordsOf(history.error) : null}
          what="the history"
          onRetry={() => void history.refetch()}
        />
      )}
    </Dialog>
  );
}
