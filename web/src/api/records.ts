import {
  useMutation,
  useQuery,
  useQueryClient,
  type UseMutationResult,
  type UseQueryResult,
} from "@tanstack/react-query";
import { client, listOf, type Schemas } from "./client";
import type { BuildOut } from "./queries";

export type RecordRow = Schemas["RecordOut"];
export type RecordKind = RecordRow["kind"];
export type RecordOf<K extends RecordKind> = Extract<RecordRow["record"], { kind: K }>;
export type RowOf<K extends RecordKind> = RecordRow & { record: RecordOf<K> };
export type Take = Schemas["RecordIn"];

/** The records of a build that count, in the order taken. */
export const useRecords = (build: BuildOut): UseQueryResult<RecordRow[]> =>
  useQuery({
    queryKey: ["records", build.id],
    queryFn: async () =>
      listOf(
        "RecordOut",
        await client.GET("/api/builds/{build_id}/records", {
          params: { path: { build_id: build.id } },
        }),
      ),
  });

/** Keeps a record, writes one anew or strikes one out; what checks say of it is asked again. */
export function useTakeRecord(build: BuildOut): UseMutationResult<RecordRow[], Error, Take> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (body) =>
      listOf(
        "RecordOut",
        await client.POST("/api/builds/{build_id}/records", {
          params: { path: { build_id: build.id } },
          body,
        }),
      ),
    onSuccess: async (rows) => {
      queries.setQueryData(["records", build.id], rows);
      await queries.invalidateQueries({ queryKey: ["pan", build.id] });
    },
    onError: () => queries.invalidateQueries({ queryKey: ["records", build.id] }),
  });
}

/** The address of a build as one file, with its records, what was done on it and photos. */
export const exportAddress = ({ id }: { id: number }): string => `/api/builds/${id}/export`;
