import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import type { RenderResult } from "@testing-library/react";
import type { ReactElement } from "react";
import { MemoryRouter } from "react-router";
import { vi } from "vitest";
import { BuildContext, type BuildView, type Forecast } from "../document/BuildContext";
import { DUNLIN_BUILD } from "./documents";
import { show } from "./shown";

const nothing = { data: undefined, error: null, isFetching: false, refetch: vi.fn() };

/** A forecast that has not come, but for what is given; over one lap, where nothing else is said. */
export const forecastOf = ({ shown, ...given }: Partial<Forecast> = {}): Forecast => ({
  settled: nothing as unknown as Forecast["settled"],
  shown,
  judged: shown && {
    verdict: shown.verdict,
    oil: shown.verdict,
    lapName: null,
    moves: shown !== (given.settled as { data?: unknown } | undefined)?.data,
  },
  over: [],
  latest: undefined,
  figures: null,
  moves: true,
  setMoves: vi.fn(),
  ...given,
});

/** A build as the frame hands it to its stages; what is not given does nothing. */
export const viewOf = (given: Partial<BuildView> = {}): BuildView => ({
  build: DUNLIN_BUILD,
  edit: { mutate: vi.fn(), mutateAsync: vi.fn(), reset: vi.fn() } as unknown as BuildView["edit"],
  forecast: forecastOf(),
  isCalm: true,
  picked: null,
  pick: vi.fn(),
  go: vi.fn(),
  openHistory: vi.fn(),
  ...given,
});

/** Asks nothing: what a test wants answered it says itself. */
const quiet = (): QueryClient =>
  new QueryClient({ defaultOptions: { queries: { enabled: false, gcTime: 0 } } });

/** A part of a stage on the page, inside a build's frame. */
export const showInBuild = (
  part: ReactElement,
  view: BuildView = viewOf(),
  path = "/builds/7/pan",
): RenderResult =>
  show(
    <MemoryRouter initialEntries={[path]}>
      <QueryClientProvider client={quiet()}>
        <BuildContext value={view}>{part}</BuildContext>
      </QueryClientProvider>
    </MemoryRouter>,
  );
