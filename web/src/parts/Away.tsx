import type { ReactElement } from "react";
import { Button } from "./Button";
import { Mark } from "./Mark";
import type { Queue } from "./useQueue";
import { useOpensAway } from "../offline/worker";

/** What waits to be sent, and what holds while nothing answers; in one line where all is well. */
export function Away<Entry>({
  queue,
  wordsOf,
}: {
  queue: Queue<Entry>;
  /** What was entered, in a few words. */
  wordsOf: (entry: Entry) => string;
}): ReactElement {
  const opens = useOpensAway();
  const refused = queue.rows.filter((row) => row.refused !== null);
  const waiting = queue.rows.length - refused.length;
  return (
    <div className="text-[13px] text-ink-2" data-away={opens}>
      {refused.map((row) => (
        <div
          key={row.client_id}
          role="alert"
          className="mb-1 flex items-start gap-2 border border-bad bg-bad-wash p-2 text-[14px] text-ink"
        >
          <Mark state="bad" />
          <span className="min-w-0 flex-1">
            Not kept: {wordsOf(row.entry)}. It {row.refused}.
          </span>
          <Button onClick={() => queue.drop(row.client_id)}>Read</Button>
        </div>
      ))}
      {(waiting > 0 || queue.isAway) && (
        <p role="status" className="flex items-center gap-2 pb-1 text-[14px] text-ink">
          <Mark state="caution" size={16} />
          <span className="flex-1" data-waiting={waiting}>
            {waiting > 0 ? `${waiting} entered, not sent yet` : "Nothing answers"}
            {queue.isAway ? "; it goes when the connection is back" : ""}
            {queue.fault && !queue.isAway ? `. ${queue.fault}` : ""}
          </span>
          <Button onClick={queue.retry}>Try now</Button>
        </p>
      )}
      <p>
        {opens === "yes"
          ? "Opens without a connection; entries wait on this device."
          : queue.lasts
            ? "Without a connection keep this page open: the certificate is not trusted. Entries wait on this device."
            : "Without a connection keep this page open: entries wait in it alone."}
      </p>
    </div>
  );
}
