import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { UseMutationResult, UseQueryResult } from "@tanstack/react-query";
import { bodyOf, client, cookie, listOf, refusalOf, type Schemas } from "./client";

export type LogUpload = Schemas["LogUploadOut"];
export type Understood = Schemas["UnderstoodOut"];
export type Reading = Understood["reading"];
export type LapDetail = Schemas["LapDetailOut"];
export type LapRow = Schemas["LapOut"];

/** How far a long call is, from 0 to 1. */
export type OnShare = (share: number) => void;

/** Uploads a file, telling how far it is; ended by the signal. */
export function uploadLog(file: File, onShare: OnShare, signal: AbortSignal): Promise<LogUpload> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open("POST", "/api/laps/files");
    request.setRequestHeader("X-CSRFToken", cookie("csrftoken"));
    request.upload.onprogress = (event) => {
      if (event.lengthComputable) onShare(event.loaded / event.total);
    };
    request.onload = () => {
      const answer = new Response(request.responseText, { status: request.status });
      if (request.status === 201) resolve(answer.json() as Promise<LogUpload>);
      else void refusalOf(answer).then(reject, reject);
    };
    request.onerror = () => reject(new TypeError("no answer"));
    request.onabort = () => reject(new DOMException("cancelled", "AbortError"));
    signal.addEventListener("abort", () => request.abort());
    const form = new FormData();
    form.append("file", file);
    request.send(form);
  });
}

/** Whole lines out of pieces of text as they arrive. */
export function lineSplitter(): (piece: string) => string[] {
  let rest = "";
  return (piece) => {
    const lines = (rest + piece).split("\n");
    rest = lines.pop() ?? "";
    return lines.filter((line) => line !== "");
  };
}

/** Reads an uploaded file as said, or as its headings say; ended by the signal. */
export async function readLog(
  fileId: number,
  reading: Reading | null,
  onShare: OnShare,
  signal: AbortSignal,
): Promise<Understood> {
  const answer = await fetch(`/api/laps/files/${fileId}/reading`, {
    method: "POST",
    headers: { "Content-Type": "application/json", "X-CSRFToken": cookie("csrftoken") },
    body: JSON.stringify({ reading }),
    signal,
  });
  if (!answer.ok || !answer.body) throw await refusalOf(answer);
  const split = lineSplitter();
  const decoder = new TextDecoder();
  const pieces = answer.body.getReader();
  for (;;) {
    const { done, value } = await pieces.read();
    if (done) throw new Error("The reading ended early. Try it again; nothing was lost.");
    for (const line of split(decoder.decode(value, { stream: true }))) {
      const step = JSON.parse(line) as Schemas["ReadingStep"];
      if (step.share != null) onShare(step.share);
      if (step.understood) return step.understood;
    }
  }
}

/** What came of a log that was brought in without being asked about. */
export interface Brought {
  name: string;
  kept: LapRow[];
  /** What Loads has to ask first; nothing: its laps are kept. */
  asks: string;
}

/** What of a file has to be asked before its laps are kept; nothing where it says all itself. */
export function asksOf(found: Understood): string {
  if (found.faults[0]) return found.faults[0].message;
  if (!found.reading.columns.oil_pressure) return "no column for the oil's pressure";
  if (found.guesses[0] && !found.remembered) return found.guesses[0].words;
  if (found.bad_rows > 0) return `${found.bad_rows} rows that cannot be read`;
  return found.laps.length === 0 ? "no lap was found in it" : "";
}

/** Brings a log in whose headings say all: its whole laps, or the one that there is, are kept. */
export async function bringLog(
  file: File,
  onShare: OnShare,
  signal: AbortSignal,
): Promise<Brought> {
  const upload = await uploadLog(file, (share) => onShare(share / 2), signal);
  const found = await readLog(upload.id, null, (share) => onShare(0.5 + share / 2), signal);
  const asks = asksOf(found);
  if (asks) return { name: file.name, kept: [], asks };
  const whole = found.laps.filter((lap) => lap.whole);
  const body = {
    file_id: upload.id,
    reading: found.reading,
    leave_out_bad_rows: false,
    laps: (whole.length > 0 ? whole : found.laps).map(({ number, start_s, end_s }) => ({
      name: `${file.name.replace(/\.[^.]*$/, "").slice(0, 100)}, lap ${number}`,
      start_s,
      end_s,
    })),
  };
  const kept = listOf("LapOut", await client.POST("/api/laps", { body }));
  return { name: file.name, kept, asks: "" };
}

export const useLogUploads = (): UseQueryResult<LogUpload[]> =>
  useQuery({
    queryKey: ["log-uploads"],
    queryFn: async () => listOf("LogUploadOut", await client.GET("/api/laps/files")),
  });

export function useDropLog(): UseMutationResult<void, Error, number> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (file_id: number) => {
      await client.DELETE("/api/laps/files/{file_id}", { params: { path: { file_id } } });
    },
    onSuccess: () => queries.invalidateQueries({ queryKey: ["log-uploads"] }),
  });
}

export function useKeepLaps(): UseMutationResult<LapRow[], Error, Schemas["KeepLapsIn"]> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (body: Schemas["KeepLapsIn"]) =>
      listOf("LapOut", await client.POST("/api/laps", { body })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["laps"] }),
  });
}

const at = (lap_id: number) => ({ params: { path: { lap_id } } });

export const useLap = (lapId: number | null): UseQueryResult<LapDetail> =>
  useQuery({
    queryKey: ["lap", lapId],
    enabled: lapId !== null,
    queryFn: async () =>
      bodyOf("LapDetailOut", await client.GET("/api/laps/{lap_id}", at(lapId ?? 0))),
  });

/** What a change to a lap leaves stale: nearly all, its words are in the forecasts. */
function useAfterChange(): (gone?: number) => void {
  const queries = useQueryClient();
  return (gone) => {
    const felt = {
      predicate: ({ queryKey: [what, id] }: { queryKey: readonly unknown[] }) =>
        what !== "frames" && !(what === "lap" && id === gone),
    };
    // what is still on its way was asked before the change: it would be taken for the answer after
    void queries.cancelQueries(felt).then(() => queries.invalidateQueries(felt));
  };
}

export function useRenameLap(): UseMutationResult<
  LapRow,
  Error,
  { lapId: number; name: string; baseName: string }
> {
  const changed = useAfterChange();
  return useMutation({
    mutationFn: async ({ lapId, name, baseName }) =>
      bodyOf(
        "LapOut",
        await client.PATCH("/api/laps/{lap_id}", {
          ...at(lapId),
          body: { name, base_name: baseName },
        }),
      ),
    onSettled: () => changed(),
  });
}

export function useDeleteLap(): UseMutationResult<
  void,
  Error,
  { lapId: number; evenIfUsed: boolean }
> {
  const changed = useAfterChange();
  return useMutation({
    mutationFn: async ({ lapId, evenIfUsed }) => {
      await client.DELETE("/api/laps/{lap_id}", {
        params: { path: { lap_id: lapId }, query: { even_if_used: evenIfUsed } },
      });
    },
    onSuccess: (_none, { lapId }) => changed(lapId),
  });
}

export function useEditCorners(): UseMutationResult<
  LapDetail,
  Error,
  { lapId: number; corners: Schemas["CornerIn"][] | null }
> {
  const queries = useQueryClient();
  const changed = useAfterChange();
  return useMutation({
    mutationFn: async ({ lapId, corners }) =>
      bodyOf(
        "LapDetailOut",
        await client.PUT("/api/laps/{lap_id}/corners", { ...at(lapId), body: { corners } }),
      ),
    onSuccess: (lap) => {
      queries.setQueryData(["lap", lap.id], lap);
      changed();
    },
  });
}

/** A load without a logger, kept among the laps. */
/** A load as it is typed; the last one that could be drawn stands while the next is not there. */
export const useManoeuvreTrace = (
  parts: Schemas["ManoeuvreIn"][],
): UseQueryResult<Schemas["ManoeuvreTraceOut"]> =>
  useQuery({
    queryKey: ["manoeuvre", parts],
    retry: false,
    placeholderData: (before: Schemas["ManoeuvreTraceOut"] | undefined) => before,
    queryFn: async () =>
      bodyOf(
        "ManoeuvreTraceOut",
        await client.POST("/api/laps/manoeuvre/trace", { body: { parts } }),
      ),
  });

export function useKeepManoeuvre(): UseMutationResult<LapRow, Error, Schemas["KeepManoeuvresIn"]> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (body: Schemas["KeepManoeuvresIn"]) =>
      bodyOf("LapOut", await client.POST("/api/laps/manoeuvre", { body })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["laps"] }),
  });
}

/** A lap as it would be with other tyres. */
export function useKeepWithGrip(): UseMutationResult<
  LapRow,
  Error,
  { lapId: number; factor: number }
> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async ({ lapId, factor }) =>
      bodyOf(
        "LapOut",
        await client.POST("/api/laps/{lap_id}/grip", { ...at(lapId), body: { factor } }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["laps"] }),
  });
}
