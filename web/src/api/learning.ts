import {
  useMutation,
  useQuery,
  useQueryClient,
  type UseMutationResult,
  type UseQueryResult,
} from "@tanstack/react-query";
import { bodyOf, client, type Schemas } from "./client";
import { showMade, type BuildOut } from "./queries";

export type Learning = Schemas["LearningOut"];
export type LatestLearning = Schemas["LatestLearningOut"];
export type FitTold = Schemas["FitTold"];
export type FigureTold = Schemas["FigureTold"];

/** How often a fit under way is asked for [ms]. */
const EVERY = 1_000;

export const isLearning = (learning: Learning | null | undefined): boolean =>
  learning?.status === "waiting" || learning?.status === "running";

/** By state as well: what was taken over is not once that was undone. */
const keyOf = (build: BuildOut): unknown[] => ["learning", build.id, build.state];
const at = (build: BuildOut) => ({ params: { path: { build_id: build.id } } });

/** The newest fit of what nobody measured, asked for again and again while it is under way. */
export const useLearning = (build: BuildOut): UseQueryResult<LatestLearning> =>
  useQuery({
    queryKey: keyOf(build),
    placeholderData: (before: LatestLearning | undefined, query) =>
      query?.queryKey[1] === build.id ? before : undefined,
    refetchInterval: ({ state }) => (isLearning(state.data?.learning) ? EVERY : false),
    queryFn: async ({ signal }) =>
      bodyOf(
        "LatestLearningOut",
        await client.GET("/api/stages/track-book/{build_id}/learning", { ...at(build), signal }),
      ),
  });

/** Asks the laps, ends that, or says that all stays as it was. */
export function useLearningAct(
  build: BuildOut,
): UseMutationResult<LatestLearning, Error, "ask" | "cancel" | { leave: number }> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (act) =>
      bodyOf(
        "LatestLearningOut",
        act === "ask"
          ? await client.POST("/api/stages/track-book/{build_id}/learning", at(build))
          : act === "cancel"
            ? await client.POST("/api/stages/track-book/{build_id}/learning/cancel", at(build))
            : await client.POST("/api/stages/track-book/{build_id}/learning/leave", {
                ...at(build),
                body: { learning_id: act.leave },
              }),
      ),
    onSuccess: (told) => queries.setQueryData(keyOf(build), told),
  });
}

/** Takes fitted figures over into what is known of the car. */
export function useTakeLearned(
  build: BuildOut,
): UseMutationResult<BuildOut, Error, { learning_id: number; keys: string[] }> {
  const queries = useQueryClient();
  return useMutation({
    scope: { id: `build-${build.id}` },
    mutationFn: async (body) =>
      bodyOf(
        "BuildOut",
        await client.POST("/api/stages/track-book/{build_id}/learning/take", {
          ...at(build),
          body: { ...body, base_state: build.state },
        }),
      ),
    onSuccess: (made) => {
      showMade(queries, made);
      return queries.invalidateQueries({ queryKey: ["learning", build.id] });
    },
  });
}

/** Takes over what a hold-up trial told. */
export function useTakeHeldUp(build: BuildOut): UseMutationResult<BuildOut, Error, string> {
  const queries = useQueryClient();
  return useMutation({
    scope: { id: `build-${build.id}` },
    mutationFn: async (trial_id) =>
      bodyOf(
        "BuildOut",
        await client.POST("/api/stages/track-book/{build_id}/hold-ups/{trial_id}/take", {
          params: { path: { build_id: build.id, trial_id } },
          body: { base_state: build.state },
        }),
      ),
    onSuccess: (made) => showMade(queries, made),
  });
}
