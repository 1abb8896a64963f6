import {
  useMutation,
  useQuery,
  useQueryClient,
  type UseMutationResult,
  type UseQueryResult,
} from "@tanstack/react-query";
import { bodyOf, client, type Schemas } from "./client";
import type { BuildOut } from "./queries";

export type Run = Schemas["RunOut"];
export type Runs = Schemas["RunsOut"];
export type Latest = Schemas["LatestOut"];
export type Moving = Schemas["MovingOut"];
export type Cells = Run["cells"];

/** How often a run under way is looked at [ms]. */
const LOOK_EVERY = 800;

export const isUnderWay = (run: Run): boolean =>
  run.status === "waiting" || run.status === "running";

/** What is under way and what is known for a build as it stands over its lap. */
export const useLatest = (build: BuildOut | undefined): UseQueryResult<Latest> =>
  useQuery({
    queryKey: ["runs", "latest", build?.id, build?.state, build?.lap_id],
    enabled: build?.lap_id != null,
    refetchInterval: (query) => (query.state.data?.under_way ? LOOK_EVERY : false),
    queryFn: async () =>
      bodyOf(
        "LatestOut",
        await client.GET("/api/runs/of-build/{build_id}", {
          params: { path: { build_id: build?.id ?? 0 } },
        }),
      ),
  });

export const useRuns = (): UseQueryResult<Runs> =>
  useQuery({
    queryKey: ["runs", "all"],
    refetchInterval: (query) => (query.state.data?.runs.some(isUnderWay) ? LOOK_EVERY : 5000),
    queryFn: async () => bodyOf("RunsOut", await client.GET("/api/runs")),
  });

export function useAskForRun(): UseMutationResult<
  Run,
  Error,
  { buildId: number; cells: Cells; automatic?: boolean }
> {
  const queries = useQueryClient();
  return useMutation({
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
      bodyOf(
        "RunOut",
        await client.POST("/api/runs/{run_id}/cancel", { params: { path: { run_id: id } } }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["runs"] }),
  });
}
