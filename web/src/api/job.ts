import {
  useMutation,
  useQuery,
  useQueryClient,
  type UseMutationResult,
  type UseQueryResult,
} from "@tanstack/react-query";
import { useCallback } from "react";
import type { Waiting } from "../offline/queue";
import { keepAnswer } from "../offline/worker";
import { bodyOf, client, type Schemas } from "./client";
import type { BuildOut } from "./queries";

export type JobStage = Schemas["JobStageOut"];
export type Card = Schemas["CardOut"];
export type Step = Schemas["StepOut"];
export type StepState = Step["state"];
export type Flange = Schemas["FlangeOut"];
export type Said = Schemas["CardSettings"];
export type AccessItem = Schemas["AccessItem"];
export type Entry = Schemas["EntryIn"]["entry"];
export type WantedPart = Schemas["WantedPartOut"];
export type HowFar = NonNullable<WantedPart["how_far"]>;

/** How often another hand's ticks are looked for [ms]. */
const LOOK_AGAIN = 20_000;

const keyOf = (build: BuildOut): unknown[] => ["job", build.id, build.state, build.as_is];
const pathOf = (build: BuildOut): { params: { path: { build_id: number } } } => ({
  params: { path: { build_id: build.id } },
});

/** The job that makes the plan of the car as it is. */
export const useJob = (build: BuildOut, enabled = true): UseQueryResult<JobStage> =>
  useQuery({
    queryKey: keyOf(build),
    enabled,
    refetchInterval: LOOK_AGAIN,
    placeholderData: (before: JobStage | undefined, query) =>
      query?.queryKey[1] === build.id ? before : undefined,
    queryFn: async ({ signal }) =>
      bodyOf(
        "JobStageOut",
        await client.GET("/api/stages/job-card/{build_id}", { ...pathOf(build), signal }),
      ),
  });

function useKept(build: BuildOut): (told: JobStage) => void {
  const queries = useQueryClient();
  return useCallback(
    (told) => {
      queries.setQueryData(keyOf(build), told);
      void keepAnswer(`/api/stages/job-card/${build.id}`, { ...told, refused: [] });
    },
    [build, queries],
  );
}

/** Begins the job, or says of one that was begun how it is done; tries it where nothing is kept. */
export function useSay(
  build: BuildOut,
): UseMutationResult<JobStage, Error, { said: Said; how: "try" | "begin" | "keep" }> {
  const keep = useKept(build);
  return useMutation({
    mutationFn: async ({ said, how }) => {
      const sent = { ...pathOf(build), body: { said } };
      return bodyOf(
        "JobStageOut",
        how === "keep"
          ? await client.PUT("/api/stages/job-card/{build_id}/said", sent)
          : await client.POST(
              how === "try"
                ? "/api/stages/job-card/{build_id}/try"
                : "/api/stages/job-card/{build_id}/begin",
              sent,
            ),
      );
    },
    onSuccess: (told, { how }) => {
      if (how !== "try") keep(told);
    },
  });
}

/** Says how far a part of the job is; null: to order still. */
export function useTickPart(
  build: BuildOut,
): UseMutationResult<JobStage, Error, { part: string; how_far: HowFar | null }> {
  const keep = useKept(build);
  return useMutation({
    mutationFn: async ({ part, how_far }) =>
      bodyOf(
        "JobStageOut",
        await client.PUT("/api/stages/job-card/{build_id}/parts/{key}", {
          params: { path: { build_id: build.id, key: part } },
          body: { how_far },
        }),
      ),
    onSuccess: keep,
  });
}

/** Closes the card: the car is as it was planned. */
export function useClose(build: BuildOut): UseMutationResult<JobStage, Error, void> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async () =>
      bodyOf(
        "JobStageOut",
        await client.POST("/api/stages/job-card/{build_id}/close", pathOf(build)),
      ),
    onSuccess: () =>
      Promise.all([
        queries.invalidateQueries({ queryKey: ["build", build.id] }),
        queries.invalidateQueries({ queryKey: ["job", build.id] }),
      ]),
  });
}

/** Sends what was entered; what the server refuses is told. */
export function useSendEntries(
  build: BuildOut,
): (rows: Waiting<Entry>[]) => Promise<JobStage["refused"]> {
  const keep = useKept(build);
  return useCallback(
    async (rows) => {
      const told = bodyOf(
        "JobStageOut",
        await client.POST("/api/stages/job-card/{build_id}/entries", {
          ...pathOf(build),
          body: { entries: rows.map(({ client_id, at, entry }) => ({ client_id, at, entry })) },
        }),
      );
      keep(told);
      return told.refused;
    },
    [build, keep],
  );
}

/** Where the card is printed to. */
export const jobPage = (build: BuildOut): string => `/api/stages/job-card/${build.id}/page`;
