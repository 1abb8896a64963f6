import { forgetAnswers } from "../offline/worker";
import {
  useMutation,
  useQuery,
  useQueryClient,
  type QueryClient,
  type UseMutationResult,
  type UseQueryResult,
} from "@tanstack/react-query";
import { bodyOf, client, fileForm, listOf, Refusal, type Schemas } from "./client";

export type Session = Schemas["SessionOut"];
export type BuildOut = Schemas["BuildOut"];
export type BuildDocument = Schemas["Build"];
export type Slosh = Schemas["SloshOut"];
export type PanFigures = Schemas["PanOut"];
export type StateRow = Schemas["StateOut"];
export type ShelfRow = Schemas["ShelfOut"];
export type UnitSystem = Schemas["ActIn"]["system"];
type Untyped<Each> = Each extends unknown ? Omit<Each, "typed"> : never;
/** A change of a build as data; its figures as numbers, or as typed. */
export type Act = Untyped<Schemas["ActIn"]["act"]>;

export function useSession(): UseQueryResult<Session | null> {
  return useQuery({
    queryKey: ["session"],
    staleTime: Infinity,
    queryFn: async () => (await client.GET("/api/session")).data as Session | null,
  });
}

export function useSignIn(): UseMutationResult<Session, Error, Schemas["SignInIn"]> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (body: Schemas["SignInIn"]) =>
      bodyOf("SessionOut", await client.POST("/api/session", { body })),
    onSuccess: (session) => queries.setQueryData(["session"], session),
  });
}

export function useSignOut(): UseMutationResult<void, Error, void> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async () => {
      await client.DELETE("/api/session");
    },
    onSuccess: async () => {
      await forgetAnswers();
      queries.clear();
      queries.setQueryData(["session"], null);
    },
  });
}

export const useShelf = (): UseQueryResult<ShelfRow[]> =>
  useQuery({
    queryKey: ["shelf"],
    queryFn: async () => listOf("ShelfOut", await client.GET("/api/shelf")),
  });

export const useTemplates = (): UseQueryResult<Schemas["TemplateOut"][]> =>
  useQuery({
    queryKey: ["templates"],
    staleTime: Infinity,
    queryFn: async () => listOf("TemplateOut", await client.GET("/api/builds/templates")),
  });

export const useLaps = (): UseQueryResult<Schemas["LapOut"][]> =>
  useQuery({
    queryKey: ["laps"],
    queryFn: async () => listOf("LapOut", await client.GET("/api/laps")),
  });

const at = (id: number) => ({ params: { path: { build_id: id } } });

/** How often another editor's changes are looked for [ms]. */
const LOOK_AGAIN = 10_000;

export const useBuild = (id: number): UseQueryResult<BuildOut> =>
  useQuery({
    queryKey: ["build", id],
    refetchInterval: LOOK_AGAIN,
    queryFn: async () => bodyOf("BuildOut", await client.GET("/api/builds/{build_id}", at(id))),
  });

/** The forecast; while a newer state is computed, the last one stays on screen. */
export const useSlosh = (build: BuildOut | undefined): UseQueryResult<Slosh> =>
  useQuery({
    queryKey: ["slosh", build?.id, build?.state, build?.lap_id],
    enabled: build !== undefined,
    placeholderData: (before: Slosh | undefined, query) =>
      query?.queryKey[1] === build?.id ? before : undefined,
    queryFn: async () =>
      bodyOf("SloshOut", await client.GET("/api/stages/slosh/{build_id}", at(build?.id ?? 0))),
  });

/** The build as it stands over another lap, to lay over the first. */
export const useOtherLap = (
  build: BuildOut,
  lapId: number | null,
): UseQueryResult<Schemas["LapForecastOut"]> =>
  useQuery({
    queryKey: ["other-lap", build.id, build.state, lapId],
    enabled: lapId !== null,
    queryFn: async () =>
      bodyOf(
        "LapForecastOut",
        await client.GET("/api/stages/slosh/{build_id}/laps/{lap_id}", {
          params: { path: { build_id: build.id, lap_id: lapId ?? 0 } },
        }),
      ),
  });

/** A cut through a state of a build anywhere [mm]; the last one stands until the next is there. */
export const useSection = (
  buildId: number | null,
  state: number | null,
  view: "side" | "front",
  atMm: number | null,
): Schemas["SectionOut"] | undefined => {
  const wanted = buildId !== null && state !== null && atMm !== null;
  const { data } = useQuery({
    queryKey: ["section", buildId, state, view, atMm],
    enabled: wanted,
    staleTime: Infinity,
    gcTime: 30_000,
    placeholderData: (before: Schemas["SectionOut"] | undefined, query) =>
      query?.queryKey[1] === buildId && query.queryKey[2] === state ? before : undefined,
    queryFn: async () =>
      bodyOf(
        "SectionOut",
        await client.GET("/api/stages/slosh/{build_id}/section/{view}", {
          params: {
            path: { build_id: buildId ?? 0, view },
            query: { at_mm: atMm ?? 0, state: state ?? 0 },
          },
        }),
      ),
  });
  return wanted ? data : undefined;
};

/** Fills, dips and checks of the pan as it stands; asked for once it is their turn. */
export const usePan = (build: BuildOut | undefined, itsTurn: boolean): UseQueryResult<PanFigures> =>
  useQuery({
    queryKey: ["pan", build?.id, build?.state, build?.lap_id],
    enabled: build !== undefined && itsTurn,
    placeholderData: (before: PanFigures | undefined, query) =>
      query?.queryKey[1] === build?.id ? before : undefined,
    queryFn: async () =>
      bodyOf("PanOut", await client.GET("/api/stages/pan/{build_id}", at(build?.id ?? 0))),
  });

/** What the ports of a build's circuit are joined to, and whether it checks out. */
export const useCircuit = (build: BuildOut): UseQueryResult<Schemas["CircuitOut"]> =>
  useQuery({
    queryKey: ["circuit", build.id, build.state],
    placeholderData: (before: Schemas["CircuitOut"] | undefined, query) =>
      query?.queryKey[1] === build.id ? before : undefined,
    queryFn: async () =>
      bodyOf(
        "CircuitOut",
        await client.GET("/api/stages/pressure/{build_id}/circuit", at(build.id)),
      ),
  });

/** What nobody measured of the circuit, and what it moves: some seconds of work, so on demand. */
export const useGuesses = (
  build: BuildOut,
  isWanted: boolean,
): UseQueryResult<Schemas["GuessesOut"]> =>
  useQuery({
    queryKey: ["guesses", build.id, build.state],
    enabled: isWanted,
    staleTime: Infinity,
    queryFn: async () =>
      bodyOf(
        "GuessesOut",
        await client.GET("/api/stages/pressure/{build_id}/guesses", at(build.id)),
      ),
  });

export const useHistory = (build: BuildOut): UseQueryResult<StateRow[]> =>
  useQuery({
    queryKey: ["history", build.id, build.state, build.revision],
    queryFn: async () =>
      listOf("StateOut", await client.GET("/api/builds/{build_id}/history", at(build.id))),
  });

/** What is to be built to get from the state that the car is in to the one shown. */
export const useDifferences = (
  build: BuildOut,
  system: UnitSystem,
): UseQueryResult<Schemas["DifferenceOut"][]> =>
  useQuery({
    queryKey: ["differences", build.id, build.as_is, build.state, system],
    enabled: build.as_is !== null && build.as_is !== build.state,
    staleTime: Infinity,
    queryFn: async () =>
      listOf(
        "DifferenceOut",
        await client.GET("/api/builds/{build_id}/differences", {
          params: {
            path: { build_id: build.id },
            query: { before: build.as_is ?? 0, after: build.state, system },
          },
        }),
      ),
  });

/** Any two states beside each other; null: not asked for. */
export const useSideBySide = (
  build: BuildOut,
  states: readonly [number, number] | null,
  system: UnitSystem,
): UseQueryResult<Schemas["SideBySideOut"]> =>
  useQuery({
    queryKey: ["side by side", build.id, build.state, build.lap_id, states, system],
    enabled: states !== null,
    queryFn: async () => {
      const [before, after] = states ?? [0, 0];
      return bodyOf(
        "SideBySideOut",
        await client.GET("/api/runs/side-by-side/{build_id}", {
          params: { path: { build_id: build.id }, query: { before, after, system } },
        }),
      );
    },
  });

export function useNewBuild(): UseMutationResult<BuildOut, Error, Schemas["NewBuildIn"]> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (body: Schemas["NewBuildIn"]) =>
      bodyOf("BuildOut", await client.POST("/api/builds", { body })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["shelf"] }),
  });
}

export function useImportBuild(): UseMutationResult<BuildOut, Error, File> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (file: File) =>
      bodyOf(
        "BuildOut",
        await client.POST("/api/builds/import", {
          body: { file: "" },
          bodySerializer: () => fileForm(file),
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["shelf"] }),
  });
}

export function useDeleteBuild(): UseMutationResult<void, Error, number> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (id: number) => {
      await client.DELETE("/api/builds/{build_id}", at(id));
    },
    onSuccess: () => queries.invalidateQueries({ queryKey: ["shelf"] }),
  });
}

export type Edit =
  | { kind: "act"; act: Act; system: UnitSystem }
  | { kind: "document"; document: BuildDocument; change: string; madeOn: number }
  | { kind: "undo" }
  | { kind: "redo" }
  | { kind: "show"; state: number }
  | { kind: "revision"; name: string }
  | { kind: "lap"; lapId: number | null }
  | { kind: "judged"; lapIds: number[] }
  | { kind: "asIs"; state: number | null };

/**
 * Each kind of edit as its call, on the state that it was made on: a whole document on the one that
 * it was changed from, or it would take back what came in between; all else on the newest.
 */
const CALLS: {
  [Kind in Edit["kind"]]: (
    at: { params: { path: { build_id: number } } },
    base_state: number,
    edit: Extract<Edit, { kind: Kind }>,
  ) => Promise<{ data?: unknown }>;
} = {
  act: (path, base_state, { act, system }) =>
    client.POST("/api/builds/{build_id}/acts", {
      ...path,
      body: { base_state, act: { ...act, typed: {} }, system },
    }),
  document: (path, _, { document, change, madeOn }) =>
    client.PUT("/api/builds/{build_id}/document", {
      ...path,
      body: { base_state: madeOn, document, change },
    }),
  undo: (path, base_state) =>
    client.POST("/api/builds/{build_id}/undo", { ...path, body: { base_state } }),
  redo: (path, base_state) =>
    client.POST("/api/builds/{build_id}/redo", { ...path, body: { base_state } }),
  show: (path, base_state, { state }) =>
    client.POST("/api/builds/{build_id}/show", { ...path, body: { base_state, state } }),
  revision: (path, base_state, { name }) =>
    client.PUT("/api/builds/{build_id}/revision", { ...path, body: { base_state, name } }),
  asIs: (path, base_state, { state }) =>
    client.PUT("/api/builds/{build_id}/as-is", { ...path, body: { base_state, state } }),
  judged: (path, base_state, { lapIds }) =>
    client.PUT("/api/builds/{build_id}/judged", { ...path, body: { base_state, lap_ids: lapIds } }),
  lap: (path, base_state, { lapId }) =>
    client.PUT("/api/builds/{build_id}/lap", { ...path, body: { base_state, lap_id: lapId } }),
};

async function send(build: BuildOut, edit: Edit): Promise<BuildOut> {
  const call = CALLS[edit.kind] as (...given: unknown[]) => Promise<{ data?: unknown }>;
  return bodyOf("BuildOut", await call(at(build.id), build.state, edit));
}

/** An edit that met another editor's: both are kept. */
export interface Conflict {
  words: string;
  keptState: number;
  edit: Edit;
}

/** A build that was made by something else than an edit: shown, and asked for in all lists. */
export function showMade(queries: QueryClient, made: BuildOut): void {
  queries.setQueryData(["build", made.id], made);
  for (const key of ["shelf", "history", "runs"])
    void queries.invalidateQueries({ queryKey: [key] });
}

/** Edits of one build, one after another, each on the state that the one before it made. */
export function useEdit(
  id: number,
  onConflict: (conflict: Conflict) => void,
  onSaved: (build: BuildOut) => void,
): UseMutationResult<BuildOut, Error, Edit> {
  const queries = useQueryClient();
  return useMutation({
    scope: { id: `build-${id}` },
    mutationFn: async (edit: Edit) => {
      const build = queries.getQueryData<BuildOut>(["build", id]);
      if (!build) throw new Error("The build is not loaded yet.");
      return send(build, edit);
    },
    onSuccess: (build) => {
      queries.setQueryData(["build", id], build);
      onSaved(build);
      void queries.invalidateQueries({ queryKey: ["shelf"] });
    },
    onError: (error, edit) => {
      if (!(error instanceof Refusal && error.status === 409)) return;
      void queries.invalidateQueries({ queryKey: ["build", id] });
      if (error.keptState !== null)
        onConflict({ words: error.message, keptState: error.keptState, edit });
    },
  });
}
