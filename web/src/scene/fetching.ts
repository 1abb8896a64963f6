/** What draws in three dimensions comes when it is wanted. */
export const loadScene = (): Promise<typeof import("./PanScene")> => import("./PanScene");

/** Fetches it before there is something to draw. */
export const fetchScene = (): void => void loadScene().catch(() => undefined);

/** Whether this browser can draw in three dimensions at all. */
export function canDraw3d(): boolean {
  try {
    return document.createElement("canvas").getContext("webgl2") !== null;
  } catch {
    return false;
  }
}
