import {
  useMutation,
  useQuery,
  useQueryClient,
  type UseMutationResult,
  type UseQueryResult,
} from "@tanstack/react-query";
import { bodyOf, client, type Schemas } from "./client";
import type { BuildOut } from "./queries";

export type Live = Schemas["LiveOut"];
export type LiveNow = Schemas["LiveNow"];
export type LivePoint = Schemas["LivePoint"];
export type LiveSince = Schemas["LiveSince"];

/** How often a car that is followed is asked for [ms]: while it is heard, and while it is not. */
const OFTEN = 250;
const SELDOM = 1_000;
/** Of the line that is kept [s]. */
const KEPT = 30;

const keyOf = (build: BuildOut): unknown[] => ["live", build.id];
const at = (build: BuildOut) => ({ params: { path: { build_id: build.id } } });

/** The line so far with the points that came since; begun anew where the logger's clock is. */
export function joined(before: readonly LivePoint[], since: readonly LivePoint[]): LivePoint[] {
  const last = since.at(-1);
  if (!last) return [...before];
  const first = since[0] ?? last;
  const kept = before.filter(({ t }) => t < first.t && last.t - t <= KEPT);
  return last.t < (before.at(-1)?.t ?? -Infinity) ? [...since] : [...kept, ...since];
}

/** A car that is followed, asked for again and again. */
export function useLive(build: BuildOut): UseQueryResult<LiveSince> {
  const queries = useQueryClient();
  return useQuery({
    queryKey: keyOf(build),
    refetchInterval: ({ state }) =>
      (state.data as LiveSince | undefined)?.live?.state === "live" ? OFTEN : SELDOM,
    queryFn: async ({ signal }) => {
      const before = queries.getQueryData<LiveSince>(keyOf(build))?.live?.points ?? [];
      const after = before.at(-1)?.t ?? -1;
      const told = bodyOf(
        "LiveSince",
        await client.GET("/api/stages/track-book/{build_id}/live", {
          params: { path: { build_id: build.id }, query: { after } },
          signal,
        }),
      );
      if (!told.live) return told;
      return { live: { ...told.live, points: joined(before, told.live.points) } };
    },
  });
}

/** Follows a car, or follows it no more. */
export function useLiveAct(
  build: BuildOut,
): UseMutationResult<LiveSince, Error, "follow" | "leave"> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (act) =>
      bodyOf(
        "LiveSince",
        act === "follow"
          ? await client.POST("/api/stages/track-book/{build_id}/live", at(build))
          : await client.DELETE("/api/stages/track-book/{build_id}/live", at(build)),
      ),
    onSuccess: (told) => queries.setQueryData(keyOf(build), told),
  });
}
