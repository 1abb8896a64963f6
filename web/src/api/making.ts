import { useQuery, type UseQueryResult } from "@tanstack/react-query";
import { bodyOf, client, type Schemas } from "./client";
import type { BuildOut } from "./queries";

export type Making = Schemas["MakingOut"];
export type FlatPart = Schemas["FlatPartOut"];
export type Seam = Schemas["SeamOut"];

/** How a pan's panels are made: pairs that are bent, and how sheet is bent. */
export interface Made {
  bent: readonly string[];
  radiusMm: number | null;
  /** Null: a soft sheet's. */
  kFactor: number | null;
}

export const AS_WELDED: Made = { bent: [], radiusMm: null, kFactor: null };

/** Flat patterns of a build's pan as it stands. */
export const useMaking = (build: BuildOut, made: Made): UseQueryResult<Making> =>
  useQuery({
    queryKey: ["making", build.id, build.state, made],
    retry: false,
    placeholderData: (before: Making | undefined, query) =>
      query?.queryKey[1] === build.id ? before : undefined,
    queryFn: async ({ signal }) =>
      bodyOf(
        "MakingOut",
        await client.GET("/api/stages/pan/{build_id}/making", {
          params: {
            path: { build_id: build.id },
            query: { bent: [...made.bent], radius_mm: made.radiusMm, k_factor: made.kFactor },
          },
          signal,
        }),
      ),
  });

/** Where the patterns are written to; of one part alone, by its key. */
export function patternFile(
  build: BuildOut,
  made: Made,
  part = "",
  kind: "dxf" | "paper" = "dxf",
): string {
  const asked = new URLSearchParams();
  made.bent.forEach((pair) => asked.append("bent", pair));
  if (made.radiusMm !== null) asked.set("radius_mm", String(made.radiusMm));
  if (made.kFactor !== null) asked.set("k_factor", String(made.kFactor));
  if (part) asked.set("part", part);
  return `/api/stages/pan/${build.id}/making/${kind}?${asked.toString()}`;
}
