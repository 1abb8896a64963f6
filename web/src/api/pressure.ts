import { keepPreviousData, useQuery, type UseQueryResult } from "@tanstack/react-query";
import { bodyOf, client, type Schemas } from "./client";
import type { BuildOut } from "./queries";

export type PressureStage = Schemas["PressureStageOut"];
export type Trial = Schemas["TrialOut"];
export type BottleMap = Schemas["BottleMapOut"];

/** An accumulator to try; what is not told stays as it is. Figures as numbers or as typed. */
export type Tune = Partial<Omit<Schemas["TuneAccumulator"], "kind" | "typed">>;

const at = (build: BuildOut | undefined) => ({ params: { path: { build_id: build?.id ?? 0 } } });

/** What everything on the screen rests on: the build, its lap, and the run that is known. */
const restsOn = (build: BuildOut | undefined, runId: number | null): unknown[] => [
  build?.id,
  build?.state,
  build?.lap_id,
  runId,
];

/** The circuit over the lap; while a newer state is computed, the last one stays on screen. */
export const usePressure = (
  build: BuildOut | undefined,
  /** Of the finished run that is shown: another one answers otherwise. */
  runId: number | null,
): UseQueryResult<PressureStage> =>
  useQuery({
    queryKey: ["pressure", ...restsOn(build, runId)],
    enabled: build !== undefined,
    placeholderData: (before: PressureStage | undefined, query) =>
      query?.queryKey[1] === build?.id ? before : undefined,
    queryFn: async () =>
      bodyOf("PressureStageOut", await client.GET("/api/stages/pressure/{build_id}", at(build))),
  });

/** An accumulator tried over the lap; the last answer stays while the next is on its way. */
export const useTrial = (
  build: BuildOut,
  runId: number | null,
  tune: Tune | null,
  system: Schemas["TrialIn"]["system"],
): UseQueryResult<Trial> =>
  useQuery({
    queryKey: ["bottle-trial", ...restsOn(build, runId), tune, system],
    enabled: tune !== null,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    gcTime: 30_000,
    retry: false,
    queryFn: async ({ signal }) =>
      bodyOf(
        "TrialOut",
        await client.POST("/api/stages/pressure/{build_id}/bottle", {
          ...at(build),
          body: {
            system,
            act: { kind: "tune_accumulator", ...tune } as Schemas["TuneAccumulator"],
          },
          signal,
        }),
      ),
  });

/** The lowest gallery pressure over size and pre-charge of a bottle. */
export const useBottleMap = (
  build: BuildOut,
  runId: number | null,
  mostL: number,
  mostBar: number,
): UseQueryResult<BottleMap> =>
  useQuery({
    queryKey: ["bottle-map", ...restsOn(build, runId), mostL, mostBar],
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    queryFn: async ({ signal }) =>
      bodyOf(
        "BottleMapOut",
        await client.GET("/api/stages/pressure/{build_id}/bottle/map", {
          params: {
            path: { build_id: build.id },
            query: { most_l: mostL, most_bar: mostBar },
          },
          signal,
        }),
      ),
  });

export type Supply = Schemas["SupplyOut"];
export type Cooling = Schemas["CoolingOut"];
/** Figures as numbers, or as typed with any unit. */
export type SupplyAsked = { [key in keyof Schemas["Supply"]]?: number | string };
export type CoolingAsked = { [key in keyof Schemas["Stint"]]?: number | string };

/** The circuit hot and cold, and what its valve is set to for a wanted gallery. */
export const useSupply = (
  build: BuildOut,
  asked: SupplyAsked,
  system: Schemas["TrialIn"]["system"],
): UseQueryResult<Supply> =>
  useQuery({
    queryKey: ["supply", build.id, build.state, asked, system],
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
    queryFn: async () =>
      bodyOf(
        "SupplyOut",
        await client.POST("/api/stages/pressure/{build_id}/supply", {
          ...at(build),
          body: { system, asked: asked as Schemas["Supply"] },
        }),
      ),
  });

/** The oil's heat over a stint. */
export const useCooling = (
  build: BuildOut,
  runId: number | null,
  asked: CoolingAsked,
  system: Schemas["TrialIn"]["system"],
): UseQueryResult<Cooling> =>
  useQuery({
    queryKey: ["cooling", ...restsOn(build, runId), asked, system],
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
    queryFn: async () =>
      bodyOf(
        "CoolingOut",
        await client.POST("/api/stages/pressure/{build_id}/cooling", {
          ...at(build),
          body: { system, asked: asked as Schemas["Stint"] },
        }),
      ),
  });
