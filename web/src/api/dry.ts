import { useQuery, type UseQueryResult } from "@tanstack/react-query";
import { bodyOf, client, type Schemas } from "./client";
import type { BuildOut } from "./queries";

export type DryStage = Schemas["DrySumpStageOut"];
export type Dry = Schemas["DrySumpOut"];
export type Drive = Schemas["DriveOut"];
export type Sized = Schemas["SizedOut"];
export type DryOverLap = Schemas["DryOverLapOut"];
export type InCorner = Schemas["InCornerOut"];

/** The build's dry sump as it stands; `runId` of its finished run: another one answers otherwise. */
export const useDrySump = (
  build: BuildOut,
  runId: number | null,
  enabled = true,
): UseQueryResult<DryStage> =>
  useQuery({
    queryKey: ["dry-sump", build.id, build.state, build.lap_id, runId],
    enabled,
    placeholderData: (before: DryStage | undefined, query) =>
      query?.queryKey[1] === build.id ? before : undefined,
    queryFn: async ({ signal }) =>
      bodyOf(
        "DrySumpStageOut",
        await client.GET("/api/stages/dry-sump/{build_id}", {
          params: { path: { build_id: build.id } },
          signal,
        }),
      ),
  });
