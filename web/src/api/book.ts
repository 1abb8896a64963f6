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
import { bodyOf, client, fileForm, type Schemas } from "./client";
import type { BuildOut } from "./queries";

export type BookStage = Schemas["BookStageOut"];
export type Book = Schemas["BookOut"];
export type Driven = Schemas["DrivenOut"];
export type SessionRow = Driven["session"];
export type Due = Schemas["DueOut"];
export type Trend = Schemas["TrendOut"];
export type Booked = Schemas["BookedIn"]["entry"];
export type SessionEntry = Extract<Booked, { kind: "session" }>;

const keyOf = (build: BuildOut, system: "metric" | "us"): unknown[] => [
  "book",
  build.id,
  build.state,
  build.as_is,
  system,
];

/** A car's track book. */
export function useBook(
  build: BuildOut,
  system: "metric" | "us",
  enabled = true,
): UseQueryResult<BookStage> {
  return useQuery({
    queryKey: keyOf(build, system),
    enabled,
    placeholderData: (before: BookStage | undefined, query) =>
      query?.queryKey[1] === build.id ? before : undefined,
    queryFn: async ({ signal }) =>
      bodyOf(
        "BookStageOut",
        await client.GET("/api/stages/track-book/{build_id}", {
          params: { path: { build_id: build.id }, query: { system } },
          signal,
        }),
      ),
  });
}

/** Sends what was written; nothing of it is refused but for a fault in it. */
export function useSendBooked(
  build: BuildOut,
  system: "metric" | "us",
): (rows: Waiting<Booked>[]) => Promise<readonly { client_id: string; why: string }[]> {
  const queries = useQueryClient();
  return useCallback(
    async (rows) => {
      const told = bodyOf(
        "BookStageOut",
        await client.POST("/api/stages/track-book/{build_id}/entries", {
          params: { path: { build_id: build.id } },
          body: {
            system,
            entries: rows.map(({ client_id, at, entry }) => ({ client_id, at, entry })),
          },
        }),
      );
      queries.setQueryData(keyOf(build, system), told);
      void keepAnswer(`/api/stages/track-book/${build.id}?system=${system}`, told);
      return [];
    },
    [build, queries, system],
  );
}

/** Where the whole book is saved from. */
export const bookFile = (build: BuildOut): string => `/api/stages/track-book/${build.id}/export`;

/** Where the book is printed to. */
export const bookPage = (build: BuildOut, system: "metric" | "us"): string =>
  `/api/stages/track-book/${build.id}/page?system=${system}`;

/** A new build with its whole book, from a file. */
export function useBringBookIn(): UseMutationResult<BuildOut, Error, File> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (file) =>
      bodyOf(
        "BuildOut",
        await client.POST("/api/stages/track-book/import", {
          body: { file: "" },
          bodySerializer: () => fileForm(file),
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["shelf"] }),
  });
}
