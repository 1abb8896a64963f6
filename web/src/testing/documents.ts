import gated from "../../../demo/dunlin-gated.json";
import type { BuildDocument, BuildOut } from "../api/queries";

/** The demo's build with plates and gates, as the server sends it. */
export const DUNLIN = gated as unknown as BuildDocument;

/** The same as a build on the shelf. */
export const DUNLIN_BUILD: BuildOut = {
  id: 7,
  name: DUNLIN.name,
  state: 3,
  undo: null,
  redo: null,
  joined: null,
  as_is: null,
  lap_id: null,
  lap_name: null,
  judged_by: [],
  revision: null,
  document: DUNLIN,
  invented: [],
  changed_at: "2026-11-25T00:00:00Z",
};
