import { useState, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import {
  useKeepLap,
  useKeepWithGrip,
  useLaps,
  usePreviewLap,
  type BuildOut,
} from "../../api/queries";
import { Button } from "../../parts/Button";
import { FileButton } from "../../parts/FileButton";
import { Notice, Waiting } from "../../parts/Notice";
import { useSettings } from "../../parts/settings";
import { columnsOf, type Channel } from "./columns";
import { ManoeuvreForm } from "./ManoeuvreForm";
import { Understood } from "./Understood";

/** Keeps a lap as it would be with a tenth more grip, or as much as is said. */
function BetterTyres({ lapId, name }: { lapId: number; name: string }): ReactElement {
  const keep = useKeepWithGrip();
  const [factor, setFactor] = useState("1.1");
  const [open, setOpen] = useState(false);
  if (!open)
    return (
      <Button look="bare" className="px-2 underline" onClick={() => setOpen(true)}>
        better tyres
      </Button>
    );
  return (
    <form
      className="flex flex-wrap items-center gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        keep.mutate(
          { lapId, factor: Number(factor.replace(",", ".")) },
          { onSuccess: () => setOpen(false) },
        );
      }}
    >
      <label className="font-figure text-[14px]">
        grip x{" "}
        <input
          value={factor}
          aria-label={`Grip of ${name}, times`}
          aria-invalid={keep.isError}
          onChange={(event) => setFactor(event.target.value)}
          className="h-8 w-12 border border-ink bg-panel px-1"
        />
      </label>
      <Button type="submit" disabled={keep.isPending}>
        Keep
      </Button>
      {keep.error && (
        <span role="alert" className="text-[13px] text-bad">
          {wordsOf(keep.error)}
        </span>
      )}
    </form>
  );
}

/** Logged laps: choose one to judge by, or import one and see what was understood. */
export function Loads({
  build,
  onChoose,
  onDone,
}: {
  build: BuildOut;
  onChoose: (lapId: number) => Promise<unknown>;
  onDone: () => void;
}): ReactElement {
  const { largestUploadMb } = useSettings();
  const laps = useLaps();
  const preview = usePreviewLap();
  const keep = useKeepLap();
  const [file, setFile] = useState<File | null>(null);
  const [name, setName] = useState("");
  const [tooLarge, setTooLarge] = useState(false);

  function look(next: File): void {
    setTooLarge(next.size > largestUploadMb * 1024 * 1024);
    keep.reset();
    preview.reset();
    setFile(next);
    setName(next.name.replace(/\.[^.]+$/, ""));
    if (next.size <= largestUploadMb * 1024 * 1024) preview.mutate({ file: next, columns: null });
  }

  function change(channels: Channel[]): void {
    if (file) preview.mutate({ file, columns: columnsOf(channels) });
  }

  async function judgeBy(lapId: number): Promise<void> {
    await onChoose(lapId);
    onDone();
  }

  const understood = preview.data;
  return (
    <div className="grid gap-x-12 gap-y-6 overflow-y-auto p-6 xl:grid-cols-[minmax(0,1fr)_320px]">
      <section aria-labelledby="import">
        <h1 id="import" className="font-figure text-[22px] font-semibold">
          A lap from your logger
        </h1>
        <p className="mt-1 mb-3 max-w-2xl text-ink-2">
          One lap as delimited text, with time, speed, lateral and longitudinal g and engine speed.
          Headings may say unit and sign, as in “lateral g [g + left]”; what they do not say is
          asked below.
        </p>
        <FileButton
          accept=".csv,.txt,.tsv,text/csv,text/plain"
          label="Logged lap"
          look={file ? "plain" : "main"}
          disabled={preview.isPending || keep.isPending}
          onFile={look}
        >
          {file ? "Another file" : "Choose a file"}
        </FileButton>
        {file && <span className="ml-3 text-[14px] text-ink-2">{file.name}</span>}
        <div className="mt-4 max-w-3xl">
          {tooLarge && (
            <Notice kind="bad" title="Too large">
              The file is larger than {largestUploadMb} MB; export one lap.
            </Notice>
          )}
          {preview.isPending && !understood && <p role="status">Reading the file…</p>}
          {preview.error && (
            <Notice kind="bad" title="Not understood; nothing was kept">
              {wordsOf(preview.error)}
            </Notice>
          )}
          {understood && file && (
            <Understood
              preview={understood}
              busy={preview.isPending}
              onChange={change}
              onKeep={(channels) => {
                keep.mutate(
                  { file, name, columns: columnsOf(channels) },
                  { onSuccess: (lap) => void judgeBy(lap.id) },
                );
              }}
              keeping={keep.isPending}
              name={name}
              onName={setName}
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
        <ManoeuvreForm onKept={(lapId) => void judgeBy(lapId)} />
      </section>
      <section aria-labelledby="laps">
        <h2 id="laps" className="font-figure text-[22px] font-semibold">
          Laps of the workshop
        </h2>
        {!laps.data && (
          <Waiting
            error={laps.error ? wordsOf(laps.error) : null}
            what="the laps"
            onRetry={() => void laps.refetch()}
          />
        )}
        {laps.data?.length === 0 && <p className="mt-2">None yet: choose a file.</p>}
        <ul className="mt-2 border-t border-hair empty:border-0">
          {laps.data?.map((lap) => (
            <li
              key={lap.id}
              className="flex items-center justify-between gap-3 border-b border-hair py-2"
            >
              <span className="min-w-0">
                <span className="block truncate">{lap.name}</span>
                <span className="font-figure text-[14px] text-ink-2">
                  {lap.duration_s.toFixed(1)} s
                </span>
                <BetterTyres lapId={lap.id} name={lap.name} />
              </span>
              {lap.id === build.lap_id ? (
                <span className="font-figure text-[14px] font-semibold">judged by this</span>
              ) : (
                <Button onClick={() => void judgeBy(lap.id)}>Judge by it</Button>
              )}
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}
