import { useQuery, useQueryClient, type UseQueryResult } from "@tanstack/react-query";
import { useCallback } from "react";
import type { Waiting } from "../offline/queue";
import { keepAnswer } from "../offline/worker";
import { bodyOf, client, type Schemas } from "./client";
import type { BuildOut } from "./queries";

export type FitStage = Schemas["FitStageOut"];
export type Fit = Schemas["FitOut"];
export type Place = Schemas["FitPlaceOut"];
export type PlaceState = Place["state"];
export type Round = Schemas["RoundOut"];
export type Means = Round["means"];
export type FitView = Schemas["EnvelopeOut"];
export type FitFrame = Schemas["FitFrameOut"];
export type Offered = Schemas["OfferedIn"]["entry"];

const LOOK_AGAIN = 30_000;

const keyOf = (build: BuildOut): unknown[] => ["fit", build.id, build.state];

/** A build's test fit: rounds, places, the envelope. */
export const useFit = (build: BuildOut, enabled = true): UseQueryResult<FitStage> =>
  useQuery({
    queryKey: keyOf(build),
    enabled,
    refetchInterval: LOOK_AGAIN,
    placeholderData: (before: FitStage | undefined, query) =>
      query?.queryKey[1] === build.id ? before : undefined,
    queryFn: async ({ signal }) =>
      bodyOf(
        "FitStageOut",
        await client.GET("/api/stages/fit/{build_id}", {
          params: { path: { build_id: build.id } },
          signal,
        }),
      ),
  });

/** Sends what was found or said; what the server refuses is told. */
export function useSendOffered(
  build: BuildOut,
): (rows: Waiting<Offered>[]) => Promise<FitStage["refused"]> {
  const queries = useQueryClient();
  return useCallback(
    async (rows) => {
      const told = bodyOf(
        "FitStageOut",
        await client.POST("/api/stages/fit/{build_id}/entries", {
          params: { path: { build_id: build.id } },
          body: { entries: rows.map(({ client_id, at, entry }) => ({ client_id, at, entry })) },
        }),
      );
      queries.setQueryData(keyOf(build), told);
      void keepAnswer(`/api/stages/fit/${build.id}`, { ...told, refused: [] });
      return told.refused;
    },
    [build, queries],
  );
}

/** Where the round is printed to. */
export const fitPage = (build: BuildOut): string => `/api/stages/fit/${build.id}/page`;
