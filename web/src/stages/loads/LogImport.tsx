import { useEffect, useRef, useState, type ReactElement } from "react";
import { useQueryClient } from "@tanstack/react-query";
import { wordsOf } from "../../api/client";
import {
  readLog,
  uploadLog,
  useDropLog,
  useKeepLaps,
  useLogUploads,
  type LogUpload,
  type Reading,
  type Understood as UnderstoodOut,
} from "../../api/logs";
import { Button } from "../../parts/Button";
import { FileButton } from "../../parts/FileButton";
import { Notice } from "../../parts/Notice";
import { Progress } from "../../parts/Progress";
import { useSettings } from "../../parts/settings";
import { asChosen, guessedBy, isChosen } from "./reading";
import { Understood } from "./Understood";

type Work = { doing: string; share: number };

/** Files that were uploaded and not dropped: where a reload or a restart left off. */
function StillHere({
  files,
  onOpen,
}: {
  files: LogUpload[];
  onOpen: (file: LogUpload) => void;
}): ReactElement | null {
  const drop = useDropLog();
  if (files.length === 0) return null;
  return (
    <div className="mt-3 text-[14px]">
      <p className="text-ink-2">Uploaded before:</p>
      <ul>
        {files.map((file) => (
          <li key={file.id} className="flex items-center gap-2">
            <Button look="bare" className="px-0 underline" onClick={() => onOpen(file)}>
              {file.name}
            </Button>
            <span className="font-figure text-ink-2">{file.size_mb.toFixed(1)} MB</span>
            <Button
              look="bare"
              className="px-1"
              aria-label={`Remove the file ${file.name}`}
              onClick={() => drop.mutate(file.id)}
            >
              remove
            </Button>
          </li>
        ))}
      </ul>
    </div>
  );
}

/** A logger's file from choosing it to keeping laps of it. */
export function LogImport({ onKept }: { onKept: (lapId: number) => void }): ReactElement {
  const { largestUploadMb } = useSettings();
  const queries = useQueryClient();
  const uploads = useLogUploads();
  const keep = useKeepLaps();
  const [file, setFile] = useState<LogUpload | null>(null);
  const [work, setWork] = useState<Work | null>(null);
  const [understood, setUnderstood] = useState<UnderstoodOut | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const running = useRef<AbortController | null>(null);
  useEffect(() => () => running.current?.abort(), []);

  /** One long work at a time: a newer one ends the one before. */
  async function run(doing: string, act: (signal: AbortSignal) => Promise<void>): Promise<void> {
    running.current?.abort();
    const own = new AbortController();
    running.current = own;
    setFault(null);
    setWork({ doing, share: 0 });
    try {
      await act(own.signal);
    } catch (error) {
      if (!own.signal.aborted) setFault(wordsOf(error));
    } finally {
      if (running.current === own) setWork(null);
    }
  }

  const read = (from: LogUpload, reading: Reading | null): Promise<void> =>
    run(`Reading ${from.name}`, async (signal) => {
      setFile(from);
      const found = await readLog(
        from.id,
        reading,
        (share) => setWork({ doing: `Reading ${from.name}`, share }),
        signal,
      );
      // what was guessed at first stays a guess until it is accepted or said otherwise
      setUnderstood((before) => ({
        ...found,
        guesses: guessedBy(reading === null ? [] : (before?.guesses ?? []), found),
      }));
    });

  function take(next: File): void {
    keep.reset();
    setUnderstood(null);
    setFile(null);
    if (next.size > largestUploadMb * 1024 * 1024) {
      setFault(`The file is larger than ${largestUploadMb} MB; export fewer laps.`);
      return;
    }
    const doing = `Uploading ${next.name}`;
    let uploaded: LogUpload | null = null;
    void run(doing, async (signal) => {
      uploaded = await uploadLog(next, (share) => setWork({ doing, share }), signal);
      void queries.invalidateQueries({ queryKey: ["log-uploads"] });
    }).then(() => (uploaded ? read(uploaded, null) : undefined));
  }

  return (
    <section aria-labelledby="import">
      <h1 id="import" className="font-figure text-[22px] font-semibold">
        Laps from your logger
      </h1>
      <p className="mt-1 mb-3 max-w-2xl text-ink-2">
        Delimited text, or an MDF file, with speed, lateral and longitudinal g and engine speed; one
        lap or a whole session. What its headings do not say is worked out from its numbers and
        shown to you as a guess.
      </p>
      <FileButton
        accept=".csv,.txt,.tsv,.log,.asc,.mf4,.mdf,text/csv,text/plain"
        label="Logger file"
        look={understood ? "plain" : "main"}
        disabled={work !== null || keep.isPending}
        onFile={take}
      >
        {file ? "Another file" : "Choose a file"}
      </FileButton>
      {file && <span className="ml-3 text-[14px] text-ink-2">{file.name}</span>}
      {work && <Progress {...work} onCancel={() => running.current?.abort()} />}
      {!file && !work && uploads.data && (
        <StillHere files={uploads.data} onOpen={(from) => void read(from, null)} />
      )}
      <div className="mt-4 max-w-4xl">
        {fault && (
          <Notice kind="bad" title="Not understood; nothing was kept">
            {fault}
          </Notice>
        )}
        {understood && file && (
          <Understood
            understood={understood}
            fileName={file.name}
            busy={keep.isPending || work !== null}
            onChange={(reading) => {
              // shown as chosen at once; the words follow when it is read
              setUnderstood(asChosen(understood, reading));
              if (isChosen(reading)) void read(file, reading);
              else running.current?.abort(); // what is read still is not what is chosen now
            }}
            onKeep={(laps, leaveOut) =>
              keep.mutate(
                {
                  file_id: file.id,
                  reading: understood.reading,
                  leave_out_bad_rows: leaveOut,
                  laps: laps.map(({ name, start_s, end_s }) => ({ name, start_s, end_s })),
                },
                {
                  onSuccess: (kept) => {
                    const last = kept[kept.length - 1];
                    if (last) onKept(last.id);
                  },
                },
              )
            }
          />
        )}
        {keep.error && (
          <div className="mt-3">
            <Notice kind="bad" title="Not kept">
              {wordsOf(keep.error)}
            </Notice>
          </div>
        )}
      </div>
    </section>
  );
}
