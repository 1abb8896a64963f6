import { useMutation, type UseMutationResult } from "@tanstack/react-query";
import { bodyOf, client, fileForm, type Schemas } from "./client";
import type { BuildOut } from "./queries";

export type FlatDrawing = Schemas["FlatDrawingOut"];

/** How a flat drawing lies. */
export interface DrawingAsked {
  /** Of a file that does not say: not_said is the file's own. */
  unit: "not_said" | "mm" | "cm" | "m" | "in";
  /** Where the nose is on it. */
  ahead: "up" | "down" | "left" | "right";
  /** Seen from above, or from below. */
  seen: "above" | "below";
}
export const AS_DRAWN: DrawingAsked = { unit: "not_said", ahead: "up", seen: "above" };

/** A DXF laid over the pan; nothing of the build is changed by it. */
export function useReadDrawing(
  build: BuildOut,
): UseMutationResult<FlatDrawing, Error, { file: File; asked: DrawingAsked }> {
  return useMutation({
    mutationFn: async ({ file, asked: { unit, ahead, seen } }) => {
      const told = { ahead, mirrored: String(seen === "below") };
      return bodyOf(
        "FlatDrawingOut",
        await client.POST("/api/stages/pan/{build_id}/drawing", {
          params: { path: { build_id: build.id } },
          body: {} as never,
          bodySerializer: () => fileForm(file, unit === "not_said" ? told : { ...told, unit }),
        }),
      );
    },
  });
}

export type Traced = Schemas["TracedIn"];

/** Places picked on a picture as a flat drawing; nothing of the build is changed by it. */
export function useTraceFlange(build: BuildOut): UseMutationResult<FlatDrawing, Error, Traced> {
  return useMutation({
    mutationFn: async (body: Traced) =>
      bodyOf(
        "FlatDrawingOut",
        await client.POST("/api/stages/pan/{build_id}/traced", {
          params: { path: { build_id: build.id } },
          body,
        }),
      ),
  });
}
