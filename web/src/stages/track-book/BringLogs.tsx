import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState, type ReactElement } from "react";
import { Link } from "react-router";
import { wordsOf } from "../../api/client";
import { bringLog, type Brought } from "../../api/logs";
import { FileButton } from "../../parts/FileButton";
import { Progress } from "../../parts/Progress";

/** Logs brought in from within the book, one after the other; what one leaves open is said. */
export function BringLogs({
  buildId,
  onKept,
}: {
  buildId: number;
  onKept: (lapIds: number[]) => void;
}): ReactElement {
  const queries = useQueryClient();
  const waiting = useRef<File[]>([]);
  const running = useRef<AbortController | null>(null);
  const [work, setWork] = useState<{ doing: string; share: number } | null>(null);
  const [done, setDone] = useState<readonly Brought[]>([]);
  useEffect(() => () => running.current?.abort(), []);

  async function go(): Promise<void> {
    const own = new AbortController();
    running.current = own;
    for (let file = waiting.current.shift(); file; file = waiting.current.shift()) {
      const { name } = file;
      const doing = `Reading ${name}`;
      setWork({ doing, share: 0 });
      try {
        const found = await bringLog(file, (share) => setWork({ doing, share }), own.signal);
        setDone((before) => [...before, found]);
        onKept(found.kept.map(({ id }) => id));
      } catch (error) {
        if (own.signal.aborted) break;
        setDone((before) => [...before, { name, kept: [], asks: wordsOf(error) }]);
      }
    }
    waiting.current = [];
    running.current = null;
    setWork(null);
    for (const key of ["laps", "laps to judge", "log-uploads"])
      void queries.invalidateQueries({ queryKey: [key] });
  }

  return (
    <div className="py-1">
      <FileButton
        accept=".csv,.txt,.tsv,.log,.asc,.mf4,.mdf,text/csv,text/plain"
        label="Logger files of this session"
        several
        disabled={work !== null}
        onFile={(file) => {
          waiting.current.push(file);
          if (running.current === null) void go();
        }}
      >
        Bring logs in
      </FileButton>
      {work && <Progress {...work} onCancel={() => running.current?.abort()} />}
      {done.map(({ name, kept, asks }) => (
        <p key={name} className="text-[14px]">
          {name}: {asks === "" ? `${kept.length} ${kept.length === 1 ? "lap" : "laps"} kept` : asks}
          {asks !== "" && (
            <>
              {". "}
              <Link to={`/builds/${buildId}/loads`} className="underline">
                Loads asks the rest
              </Link>
            </>
          )}
        </p>
      ))}
    </div>
  );
}
