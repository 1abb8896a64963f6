import { useMutation, type UseMutationResult } from "@tanstack/react-query";
import { bodyOf, client, fileForm, type Schemas } from "./client";
import type { BuildOut } from "./queries";

export type Scanned = Schemas["ScannedOut"];

/** How a mesh stands in its own frame; places of its rail as they were typed. */
export interface ScanAsked {
  unit: "mm" | "cm" | "m" | "in";
  up: Axis;
  nose: Axis;
  rear_right: string;
  rear_left: string;
  ahead: string;
}
export type Axis = "guess" | "+x" | "-x" | "+y" | "-y" | "+z" | "-z";

export const AS_IT_IS: ScanAsked = {
  unit: "mm",
  up: "guess",
  nose: "guess",
  rear_right: "",
  rear_left: "",
  ahead: "",
};

/** A mesh read as zones; nothing of the build is changed by it. */
export function useReadScan(
  build: BuildOut,
): UseMutationResult<Scanned, Error, { file: File; asked: ScanAsked }> {
  return useMutation({
    mutationFn: async ({ file, asked }) =>
      bodyOf(
        "ScannedOut",
        await client.POST("/api/stages/pan/{build_id}/scan", {
          params: { path: { build_id: build.id } },
          body: {} as never,
          bodySerializer: () => fileForm(file, { ...asked }),
        }),
      ),
  });
}
