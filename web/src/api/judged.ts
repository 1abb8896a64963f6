import {
  useMutation,
  useQuery,
  useQueryClient,
  type UseMutationResult,
  type UseQueryResult,
} from "@tanstack/react-query";
import { bodyOf, client, listOf, Refusal, type Schemas } from "./client";

export type Judged = Schemas["JudgedOut"];
export type JudgedTrace = Schemas["JudgedTrace"];
export type PlaceJudged = Schemas["PlaceJudged"];
export type LapJudged = Schemas["LapJudged"];
export type SessionLaps = Schemas["SessionLapsIn"];
export type LapToJudge = Schemas["LapToJudge"];

const pathOf = (
  build_id: number,
  session_id: string,
): { params: { path: { build_id: number; session_id: string } } } => ({
  params: { path: { build_id, session_id } },
});

/** Laps of the workshop that have their oil's pressure. */
export const useLapsToJudge = (enabled: boolean): UseQueryResult<LapToJudge[]> =>
  useQuery({
    queryKey: ["laps to judge"],
    enabled,
    queryFn: async ({ signal }) =>
      listOf("LapToJudge", await client.GET("/api/stages/track-book/laps", { signal })),
  });

/** A session's laps against the forecast; null: none were held against it. */
export const useJudged = (
  buildId: number,
  session: string,
  enabled: boolean,
): UseQueryResult<Judged | null> =>
  useQuery({
    queryKey: ["judged", buildId, session],
    enabled,
    queryFn: async ({ signal }) => {
      try {
        return bodyOf(
          "JudgedOut",
          await client.GET("/api/stages/track-book/{build_id}/sessions/{session_id}/judged", {
            ...pathOf(buildId, session),
            signal,
          }),
        );
      } catch (thrown) {
        if (thrown instanceof Refusal && thrown.status === 404) return null;
        throw thrown;
      }
    },
  });

/** Holds laps against the forecast, and keeps both with the session. */
export function useJudge(
  buildId: number,
  session: string,
): UseMutationResult<Judged, Error, SessionLaps> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (body) =>
      bodyOf(
        "JudgedOut",
        await client.PUT("/api/stages/track-book/{build_id}/sessions/{session_id}/judged", {
          ...pathOf(buildId, session),
          body,
        }),
      ),
    onSuccess: (told) => {
      queries.setQueryData(["judged", buildId, session], told);
      void queries.invalidateQueries({ queryKey: ["judged trace", buildId, session] });
      return queries.invalidateQueries({ queryKey: ["book", buildId] });
    },
  });
}

/** Round one dip of one lap. */
export const useJudgedTrace = (
  buildId: number,
  session: string,
  at: { lap: number; dip: number } | null,
): UseQueryResult<JudgedTrace> =>
  useQuery<JudgedTrace>({
    queryKey: ["judged trace", buildId, session, at?.lap, at?.dip],
    enabled: at !== null,
    placeholderData: (before) => before,
    queryFn: async ({ signal }) =>
      bodyOf(
        "JudgedTrace",
        await client.GET(
          "/api/stages/track-book/{build_id}/sessions/{session_id}/judged/{lap_number}/{dip_number}",
          {
            params: {
              path: {
                build_id: buildId,
                session_id: session,
                lap_number: at?.lap ?? 0,
                dip_number: at?.dip ?? 0,
              },
            },
            signal,
          },
        ),
      ),
  });
