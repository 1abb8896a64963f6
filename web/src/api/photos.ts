import { useMutation, type UseMutationResult } from "@tanstack/react-query";
import { bodyOf, client, fileForm, type Schemas } from "./client";

/** Keeps a photo of a build; the token goes into its document. */
export function useAddPhoto(buildId: number): UseMutationResult<Schemas["PhotoOut"], Error, File> {
  return useMutation({
    mutationFn: async (file: File) =>
      bodyOf(
        "PhotoOut",
        await client.POST("/api/builds/{build_id}/photos", {
          params: { path: { build_id: buildId } },
          body: { file: "" },
          bodySerializer: () => fileForm(file),
        }),
      ),
  });
}

export const photoAddress = (buildId: number, token: string): string =>
  `/api/builds/${buildId}/photos/${token}`;

/** How much deeper some zones must be for the pan to hold a volume. */
export function useDepthFor(
  buildId: number,
): UseMutationResult<Schemas["DepthForOut"], Error, Schemas["DepthForIn"]> {
  return useMutation({
    mutationFn: async (body) =>
      bodyOf(
        "DepthForOut",
        await client.POST("/api/stages/pan/{build_id}/depth-for", {
          params: { path: { build_id: buildId } },
          body,
        }),
      ),
  });
}
