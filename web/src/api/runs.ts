import {
  useMutation,
  useQuery,
  useQueryClient,
  type UseMutationResult,
  type UseQueryResult,
} from "@tanstack/react-query";
import { bodyOf, client, listOf, Refusal, type Schemas } from "./client";
import type { BuildOut, Slosh } from "./queries";

export type Run = Schemas["RunOut"];
export type Runs = Schemas["RunsOut"];
export type Latest = Schemas["LatestOut"];
export type Moving = Schemas["MovingOut"];
export type Cells = Run["cells"];

const atRun = (id: number) => ({ params: { path: { run_id: id } } });

/** How often a run under way is looked at [ms]. */
const LOOK_EVERY = 500;
/** Otherwise [ms]: another device, or an answer that never came, may have changed what is known. */
const LOOK_AGAIN = 15_000;

export const isUnderWay = (run: Run): boolean =>
  run.status === "waiting" || run.status === "running";

/** Whether anything of a build is under way, over any of its laps. */
const isWorking = (latest: Latest | undefined): boolean =>
  latest !== undefined && (latest.under_way !== null || latest.elsewhere > 0);

/** What is under way and what is known for a build as it stands over its lap. */
export const useLatest = (build: BuildOut | undefined): UseQueryResult<Latest> =>
  useQuery({
    queryKey: ["runs", "latest", build?.id, build?.state, build?.lap_id, build?.judged_by],
    enabled: build?.lap_id != null,
    refetchInterval: (query) => (isWorking(query.state.data) ? LOOK_EVERY : LOOK_AGAIN),
    queryFn: async () =>
      bodyOf(
        "LatestOut",
        await client.GET("/api/runs/of-build/{build_id}", {
          params: { path: { build_id: build?.id ?? 0 } },
        }),
      ),
  });

/** What is known in moving oil of each build as it stands. */
export const useKnown = (): UseQueryResult<Schemas["KnownOut"][]> =>
  useQuery({
    queryKey: ["runs", "known"],
    queryFn: async () => listOf("KnownOut", await client.GET("/api/runs/known")),
  });

/** What a finished run gave, its plates named as in a state of its build: it never changes. */
export const useFigures = (
  runId: number | null,
  state: number | undefined,
): UseQueryResult<Moving> =>
  useQuery({
    queryKey: ["figures", runId, state],
    // other names of the same figures: those there are stay until they come
    placeholderData: (before, query) => (query?.queryKey[1] === runId ? before : undefined),
    enabled: runId !== null,
    staleTime: Infinity,
    queryFn: async () =>
      bodyOf(
        "MovingOut",
        await client.GET("/api/runs/{run_id}/figures", {
          params: { path: { run_id: runId ?? 0 }, query: { state } },
        }),
      ),
  });

/** The pan of a run and its lap in settled oil: it never changes either. */
export const useScene = (runId: number | null): UseQueryResult<Slosh> =>
  useQuery({
    queryKey: ["scene", runId],
    enabled: runId !== null,
    staleTime: Infinity,
    queryFn: async () =>
      bodyOf("SloshOut", await client.GET("/api/stages/slosh/of-run/{run_id}", atRun(runId ?? 0))),
  });

export const useRuns = (): UseQueryResult<Runs> =>
  useQuery({
    queryKey: ["runs", "all"],
    refetchInterval: (query) => (query.state.data?.runs.some(isUnderWay) ? LOOK_EVERY : 5000),
    queryFn: async () => bodyOf("RunsOut", await client.GET("/api/runs")),
  });

/** Runs that are finished; asked for again when the run shown is another. */
export const useFinishedRuns = (shownId: number | null): UseQueryResult<Run[]> =>
  useQuery({
    queryKey: ["runs", "finished", shownId],
    enabled: shownId !== null,
    staleTime: 10_000,
    queryFn: async () => {
      const { runs } = bodyOf("RunsOut", await client.GET("/api/runs"));
      return runs.filter(({ status }) => status === "finished");
    },
  });

export function useAskForRun(): UseMutationResult<
  Run,
  Error,
  { buildId: number; cells: Cells; automatic?: boolean }
> {
  const queries = useQueryClient();
  return useMutation({
    // asked twice it is the same run: a server that was away for a moment is asked again
    retry: (count, error) => count < 3 && !(error instanceof Refusal && error.status < 500),
    mutationFn: async ({ buildId, cells, automatic }) =>
      bodyOf(
        "RunOut",
        await client.POST("/api/runs", {
          body: { build_id: buildId, cells, automatic: automatic ?? false, seed: 0 },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["runs"] }),
  });
}

export function useCancelRun(): UseMutationResult<Run, Error, number> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (id: number) =>
      bodyOf("RunOut", await client.POST("/api/runs/{run_id}/cancel", atRun(id))),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["runs"] }),
  });
}

/** Runs of a build as it stands from several starts, for the spread of its dry time. */
export function useAskForStarts(): UseMutationResult<
  Run[],
  Error,
  { buildId: number; cells: Cells; count: number }
> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async ({ buildId, cells, count }) =>
      listOf(
        "RunOut",
        await client.POST("/api/runs/starts", { body: { build_id: buildId, cells, count } }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["runs"] }),
  });
}

/** Ends all that waits or is under way for a build. */
export function useCancelRunsOfBuild(): UseMutationResult<Latest, Error, number> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (id: number) =>
      bodyOf(
        "LatestOut",
        await client.POST("/api/runs/of-build/{build_id}/cancel", {
          params: { path: { build_id: id } },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["runs"] }),
  });
}
