import {
  useMutation,
  useQuery,
  useQueryClient,
  type UseMutationResult,
  type UseQueryResult,
} from "@tanstack/react-query";
import { bodyOf, client, type Schemas } from "./client";
import { showMade, type BuildOut } from "./queries";

export type LatestStudy = Schemas["LatestStudyOut"];
export type Study = Schemas["StudyOut"];
export type Options = Schemas["OptionsOut"];
export type OptionRow = Schemas["OptionRowOut"];
export type Standing = Schemas["StandingOut"];

/** How often a study under way is asked for [ms]. */
const EVERY = 1_000;

export const isUnderWay = (study: Pick<Study, "progress"> | null | undefined): boolean =>
  study?.progress.status === "waiting" || study?.progress.status === "running";

const keyOf = (build: BuildOut): unknown[] => ["options", build.id];
const at = (build: BuildOut) => ({ params: { path: { build_id: build.id } } });

/** The newest study of a build, asked for again and again while it is under way. */
export const useOptions = (build: BuildOut): UseQueryResult<LatestStudy> =>
  useQuery({
    queryKey: [...keyOf(build), build.state, build.judged_by],
    placeholderData: (before: LatestStudy | undefined, query) =>
      query?.queryKey[1] === build.id ? before : undefined,
    refetchInterval: (query) => (isUnderWay(query.state.data?.study) ? EVERY : false),
    queryFn: async ({ signal }) =>
      bodyOf(
        "LatestStudyOut",
        await client.GET("/api/stages/options/{build_id}", { ...at(build), signal }),
      ),
  });

function useStudyAct<Given>(
  build: BuildOut,
  send: (given: Given) => Promise<LatestStudy>,
): UseMutationResult<LatestStudy, Error, Given> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: send,
    onSuccess: (told) => {
      queries.setQueriesData({ queryKey: keyOf(build) }, told);
      void queries.invalidateQueries({ queryKey: ["runs"] });
    },
  });
}

/** Tries remedies on a build as it stands. */
export const useBeginStudy = (
  build: BuildOut,
): UseMutationResult<LatestStudy, Error, { off: string[]; own: Schemas["OwnIn"][] }> =>
  useStudyAct(build, async (body) =>
    bodyOf(
      "LatestStudyOut",
      await client.POST("/api/stages/options/{build_id}/study", { ...at(build), body }),
    ),
  );

/** Ends a study; what was tried stays. */
export const useCancelStudy = (build: BuildOut): UseMutationResult<LatestStudy, Error, void> =>
  useStudyAct(build, async () =>
    bodyOf("LatestStudyOut", await client.POST("/api/stages/options/{build_id}/cancel", at(build))),
  );

export type Search = Schemas["SearchOut"];
export type What = Search["what"];
export type LatestSearch = Schemas["LatestSearchOut"];

const searchKey = (build: BuildOut, what: What): unknown[] => ["search", build.id, what];

/** The newest search of a kind, asked for again and again while it is under way. */
export const useSearch = (build: BuildOut, what: What): UseQueryResult<LatestSearch> =>
  useQuery({
    queryKey: [...searchKey(build, what), build.state, build.judged_by],
    refetchInterval: ({ state }) =>
      isUnderWay((state.data as LatestSearch | undefined)?.search) ? EVERY : false,
    queryFn: async ({ signal }) =>
      bodyOf(
        "LatestSearchOut",
        await client.GET("/api/stages/options/{build_id}/search/{what}", {
          params: { path: { build_id: build.id, what } },
          signal,
        }),
      ),
  });

/** Begins a search, or ends it. */
export function useSearchAct(
  build: BuildOut,
  what: What,
): UseMutationResult<LatestSearch, Error, "begin" | "cancel"> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (act) =>
      bodyOf(
        "LatestSearchOut",
        act === "begin"
          ? await client.POST("/api/stages/options/{build_id}/search", {
              ...at(build),
              body: { what },
            })
          : await client.POST("/api/stages/options/{build_id}/search/{what}/cancel", {
              params: { path: { build_id: build.id, what } },
            }),
      ),
    onSuccess: (told) => queries.setQueriesData({ queryKey: searchKey(build, what) }, told),
  });
}

/** Oil above the mark, pour by pour. */
export const useOverfill = (
  build: BuildOut,
  enabled: boolean,
): UseQueryResult<Schemas["OverfillOut"]> =>
  useQuery({
    queryKey: ["overfill", build.id, build.state, build.lap_id],
    enabled,
    queryFn: async ({ signal }) =>
      bodyOf(
        "OverfillOut",
        await client.GET("/api/stages/options/{build_id}/overfill", { ...at(build), signal }),
      ),
  });

/** Where the newest study is printed. */
export const pageOf = (build: BuildOut): string => `/api/stages/options/${build.id}/page`;

/** What one remedy would change in the document. */
export const useRemedy = (
  build: BuildOut,
  study: number | undefined,
  key: string | null,
  system: "metric" | "us",
): UseQueryResult<Schemas["RemedyOut"]> =>
  useQuery({
    queryKey: ["remedy", build.id, study, key, system],
    enabled: key !== null && study !== undefined,
    staleTime: Infinity,
    queryFn: async ({ signal }) =>
      bodyOf(
        "RemedyOut",
        await client.GET("/api/stages/options/{build_id}/remedy", {
          params: { path: { build_id: build.id }, query: { key: key ?? "", system } },
          signal,
        }),
      ),
  });

export type OverLap = Schemas["OverLapOut"];

/** One remedy over the worst lap beside the build as it is; `upTo` names how far it was tried. */
export const useOverLap = (
  build: BuildOut,
  key: string | null,
  upTo: string,
): UseQueryResult<OverLap> =>
  useQuery({
    queryKey: ["over lap", build.id, key, upTo],
    enabled: key !== null,
    retry: false,
    queryFn: async ({ signal }) =>
      bodyOf(
        "OverLapOut",
        await client.GET("/api/stages/options/{build_id}/over-lap", {
          params: { path: { build_id: build.id }, query: { key: key ?? "" } },
          signal,
        }),
      ),
  });

/** Makes a remedy a revision of the build. */
export function useApplyRemedy(build: BuildOut): UseMutationResult<BuildOut, Error, string> {
  const queries = useQueryClient();
  return useMutation({
    scope: { id: `build-${build.id}` },
    mutationFn: async (key: string) =>
      bodyOf(
        "BuildOut",
        await client.POST("/api/stages/options/{build_id}/apply", {
          ...at(build),
          body: { base_state: build.state, key },
        }),
      ),
    onSuccess: (made) => showMade(queries, made),
  });
}

export type Shop = Schemas["ShopOut"];

const SHOP = ["shop"];

/** Parts and hours as this workshop pays and works. */
export const useShop = (enabled: boolean): UseQueryResult<Shop> =>
  useQuery({
    queryKey: SHOP,
    enabled,
    queryFn: async () => bodyOf("ShopOut", await client.GET("/api/shop")),
  });

function useShopAct<Given>(
  send: (given: Given) => Promise<Shop>,
): UseMutationResult<Shop, Error, Given> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: send,
    onSuccess: (shop) => {
      queries.setQueryData(SHOP, shop);
      void queries.invalidateQueries({ queryKey: ["options"] });
    },
  });
}

/** Types over a part's cost and lead time; nulls take the generic ones again. */
export const useSetPrice = (): UseMutationResult<
  Shop,
  Error,
  { key: string; cost: number | null; lead_days: number | null }
> =>
  useShopAct(async ({ key, ...body }) =>
    bodyOf(
      "ShopOut",
      await client.PUT("/api/shop/parts/{key}", { params: { path: { key } }, body }),
    ),
  );

/** Types over an operation's hours; null takes the generic ones again. */
export const useSetHours = (): UseMutationResult<
  Shop,
  Error,
  { key: string; hours: number | null }
> =>
  useShopAct(async ({ key, ...body }) =>
    bodyOf(
      "ShopOut",
      await client.PUT("/api/shop/operations/{key}", { params: { path: { key } }, body }),
    ),
  );
