import { keepPreviousData, useQuery, type UseQueryResult } from "@tanstack/react-query";
import { bodyOf, client, type Schemas } from "./client";
import type { BuildOut } from "./queries";

export type DrainsStage = Schemas["DrainsStageOut"];
export type Drain = Schemas["DrainOut"];
export type DrainTrial = Schemas["DrainTrialOut"];
export type Wall = Schemas["WallOut"];

/** Guesses set otherwise; null leaves them. */
export interface Assumed {
  foamPct: number | null;
  blowByLMin: number | null;
}

/** A drain to try; what is not told stays as it is. Figures as numbers or as typed. */
export type Tune = Omit<Partial<Schemas["TuneDrain"]>, "kind" | "typed" | "run"> & { run: string };

const query = ({ foamPct, blowByLMin }: Assumed): object => ({
  ...(foamPct === null ? {} : { foam_pct: foamPct }),
  ...(blowByLMin === null ? {} : { blow_by_l_min: blowByLMin }),
});

const restsOn = (build: BuildOut | undefined): unknown[] => [
  build?.id,
  build?.state,
  build?.lap_id,
];

/** Every drain over the lap; while another answer is worked out the last one stays on screen. */
export const useDrains = (
  build: BuildOut | undefined,
  /** Of the finished run that is shown: another one answers otherwise. */
  runId: number | null,
  assumed: Assumed,
): UseQueryResult<DrainsStage> =>
  useQuery({
    queryKey: ["drains", ...restsOn(build), runId, assumed],
    enabled: build !== undefined,
    placeholderData: (before: DrainsStage | undefined, query) =>
      query?.queryKey[1] === build?.id ? before : undefined,
    queryFn: async ({ signal }) =>
      bodyOf(
        "DrainsStageOut",
        await client.GET("/api/stages/drains/{build_id}", {
          params: { path: { build_id: build?.id ?? 0 }, query: query(assumed) },
          signal,
        }),
      ),
  });

/** Every drain under one steady load; null: the lap is shown. */
export const useDrainsAt = (
  build: BuildOut,
  load: { sideG: number; foreG: number } | null,
  assumed: Assumed,
): UseQueryResult<Schemas["AtLoadOut"]> =>
  useQuery({
    queryKey: ["drains-at", ...restsOn(build), load, assumed],
    enabled: load !== null,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    gcTime: 30_000,
    queryFn: async ({ signal }) =>
      bodyOf(
        "AtLoadOut",
        await client.GET("/api/stages/drains/{build_id}/at", {
          params: {
            path: { build_id: build.id },
            query: { side_g: load?.sideG ?? 0, fore_g: load?.foreG ?? 0, ...query(assumed) },
          },
          signal,
        }),
      ),
  });

/** A drain tried over the lap; the last answer stays while the next is on its way. */
export const useDrainTrial = (
  build: BuildOut,
  tune: Tune | null,
  assumed: Assumed,
  system: Schemas["DrainTrialIn"]["system"],
): UseQueryResult<DrainTrial> =>
  useQuery({
    queryKey: ["drain-trial", ...restsOn(build), tune, assumed, system],
    enabled: tune !== null,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    gcTime: 30_000,
    retry: false,
    queryFn: async ({ signal }) =>
      bodyOf(
        "DrainTrialOut",
        await client.POST("/api/stages/drains/{build_id}/try", {
          params: { path: { build_id: build.id } },
          body: {
            system,
            act: { kind: "tune_drain", ...tune } as Schemas["TuneDrain"],
            ...query(assumed),
          },
          signal,
        }),
      ),
  });
