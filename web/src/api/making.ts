import { useQuery, type UseQueryResult } from "@tanstack/react-query";
import { bodyOf, client, type Schemas } from "./client";
import type { BuildOut } from "./queries";

export type Making = Schemas["MakingOut"];
export type FlatPart = Schemas["FlatPartOut"];
export type Seam = Schemas["SeamOut"];
export type Printed = Schemas["PrintedOut"];
/** In which bare figures were typed. */
type System = Schemas["TrialIn"]["system"];
export type What = Printed["asked"]["what"];

/** What is to be printed or milled: figures as they were typed; not there: as usual. */
export interface PrintAsked {
  what: What;
  typed: Readonly<Record<string, string>>;
}

const at = (build: BuildOut) => ({ path: { build_id: build.id } });

/** Flat patterns of a build's pan as it stands. */
export const useMaking = (build: BuildOut): UseQueryResult<Making> =>
  useQuery({
    queryKey: ["making", build.id, build.state],
    retry: false,
    placeholderData: (before: Making | undefined, query) =>
      query?.queryKey[1] === build.id ? before : undefined,
    queryFn: async ({ signal }) =>
      bodyOf(
        "MakingOut",
        await client.GET("/api/stages/pan/{build_id}/making", { params: at(build), signal }),
      ),
  });

/** What is printed of it, in figures. */
export const usePrinted = (
  build: BuildOut,
  { what, typed }: PrintAsked,
  system: System,
): UseQueryResult<Printed> =>
  useQuery({
    queryKey: ["printed", build.id, build.state, what, typed, system],
    retry: false,
    queryFn: async ({ signal }) =>
      bodyOf(
        "PrintedOut",
        await client.GET("/api/stages/pan/{build_id}/printed", {
          params: { ...at(build), query: { ...typed, what, system } },
          signal,
        }),
      ),
  });

/** Where the patterns are written to; of one part alone, by its key. */
export function patternFile(
  build: BuildOut,
  part = "",
  kind: "dxf" | "svg" | "paper" = "dxf",
): string {
  const asked = part ? `?${new URLSearchParams({ part }).toString()}` : "";
  return `/api/stages/pan/${build.id}/making/${kind}${asked}`;
}

/** Where solids are written to. */
export function printFile(
  build: BuildOut,
  { what, typed }: PrintAsked,
  system: System,
  form: "stl" | "3mf" | "glb" | "dxf",
): string {
  const query = new URLSearchParams({ ...typed, what, system });
  return `/api/stages/pan/${build.id}/printed/${form}?${query.toString()}`;
}
