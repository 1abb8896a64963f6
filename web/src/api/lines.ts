import {
  useMutation,
  useQuery,
  useQueryClient,
  type UseMutationResult,
  type UseQueryResult,
} from "@tanstack/react-query";
import { bodyOf, client, fileForm, type Schemas } from "./client";
import type { BuildOut } from "./queries";

export type LinesStage = Schemas["LinesStageOut"];
export type Lines = Schemas["LinesOut"];
export type Line = Schemas["LineOut"];
export type LineEnd = Schemas["LineEndOut"];
export type Chain = Schemas["ChainOut"];
export type OrderRow = Schemas["OrderRowOut"];
export type Tick = Schemas["TickOut"];
export type TickState = Tick["state"];
export type Bender = Schemas["BenderIn"];

const keyOf = (build: BuildOut): unknown[] => ["lines", build.id];

/** All lines of a build as it stands, and the order for them. */
export const useLines = (build: BuildOut, enabled = true): UseQueryResult<LinesStage> =>
  useQuery({
    queryKey: [...keyOf(build), build.state, build.as_is],
    enabled,
    placeholderData: (before: LinesStage | undefined, query) =>
      query?.queryKey[1] === build.id ? before : undefined,
    queryFn: async ({ signal }) =>
      bodyOf(
        "LinesStageOut",
        await client.GET("/api/stages/lines/{build_id}", {
          params: { path: { build_id: build.id } },
          signal,
        }),
      ),
  });

/** Says how far a part of the order is; null: to order still. */
export function useTick(
  build: BuildOut,
): UseMutationResult<LinesStage, Error, { part: string; state: TickState | null }> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async ({ part, state }) =>
      bodyOf(
        "LinesStageOut",
        await client.PUT("/api/stages/lines/{build_id}/order/{key}", {
          params: { path: { build_id: build.id, key: part } },
          body: { how_far: state },
        }),
      ),
    onSuccess: (told) => queries.setQueryData([...keyOf(build), build.state, build.as_is], told),
  });
}

/** Keeps what was measured of the workshop's bender. */
export function useSetBender(): UseMutationResult<Schemas["BenderOut"], Error, Bender> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (body) => bodyOf("BenderOut", await client.PUT("/api/shop/bender", { body })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["lines"] }),
  });
}

/** Reads the workshop's own costs and lead times from a CSV. */
export function useImportCatalogue(): UseMutationResult<Schemas["ShopOut"], Error, File> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (file) =>
      bodyOf(
        "ShopOut",
        await client.POST("/api/shop/catalogue", {
          body: { file: "" },
          bodySerializer: () => fileForm(file),
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["lines"] }),
  });
}

export type OwnPartIn = Schemas["OwnPartIn"];

function useOwnAct<Given>(
  send: (given: Given) => Promise<Schemas["ShopOut"]>,
): UseMutationResult<Schemas["ShopOut"], Error, Given> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: send,
    onSuccess: async (shop) => {
      queries.setQueryData(["shop"], shop);
      await queries.invalidateQueries({ queryKey: ["lines"] });
    },
  });
}

/** Adds a part of the workshop's own, or says it anew. */
export const useSetOwnPart = (): UseMutationResult<
  Schemas["ShopOut"],
  Error,
  OwnPartIn & { key: string }
> =>
  useOwnAct(async ({ key, ...body }) =>
    bodyOf("ShopOut", await client.PUT("/api/shop/own/{key}", { params: { path: { key } }, body })),
  );

/** Takes a part of its own out of the catalogue. */
export const useDropOwnPart = (): UseMutationResult<Schemas["ShopOut"], Error, string> =>
  useOwnAct(async (key) =>
    bodyOf("ShopOut", await client.DELETE("/api/shop/own/{key}", { params: { path: { key } } })),
  );

/** Puts so many of a part on the order besides what the lines take; nil: none any more. */
export function useBuyBesides(
  build: BuildOut,
): UseMutationResult<LinesStage, Error, { part: string; count: number; why: string }> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async ({ part, ...body }) =>
      bodyOf(
        "LinesStageOut",
        await client.PUT("/api/stages/lines/{build_id}/besides/{key}", {
          params: { path: { build_id: build.id, key: part } },
          body,
        }),
      ),
    onSuccess: (told) => queries.setQueryData([...keyOf(build), build.state, build.as_is], told),
  });
}

/** Where the order is written to. */
export const orderFile = (build: BuildOut, kind: "csv" | "spreadsheet" | "page"): string =>
  `/api/stages/lines/${build.id}/${kind}`;
