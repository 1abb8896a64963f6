// @vitest-environment jsdom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, renderHook } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { Refusal } from "../api/client";
import type { BuildOut } from "../api/queries";
import { useAutomaticRun } from "./useAutomaticRun";

const asked = vi.fn();
vi.mock("../api/client", async (whole) => ({
  ...(await whole<typeof import("../api/client")>()),
  client: { POST: (...what: unknown[]) => asked(...what) as unknown },
}));

beforeEach(() => void vi.useFakeTimers());
afterEach(() => {
  vi.useRealTimers();
  asked.mockReset();
});

const BUILD = { id: 3, state: 7, lap_id: 2, judged_by: [2] } as unknown as BuildOut;

function edited(): { again: (state: number) => void } {
  const queries = new QueryClient();
  const { rerender } = renderHook(({ build }) => useAutomaticRun(build), {
    initialProps: { build: BUILD },
    wrapper: ({ children }: { children: ReactNode }) => (
      <QueryClientProvider client={queries}>{children}</QueryClientProvider>
    ),
  });
  return { again: (state) => rerender({ build: { ...BUILD, state } }) };
}
const pass = (ms: number): Promise<void> =>
  act(async () => {
    await vi.advanceTimersByTimeAsync(ms);
  });

it("asks for a run once an edit has stood, and for none of those before it", async () => {
  asked.mockResolvedValue({ data: {}, response: new Response() });
  const { again } = edited();
  await pass(900);
  again(8);
  await pass(900);
  expect(asked).not.toHaveBeenCalled();
  await pass(200);
  expect(asked).toHaveBeenCalledOnce();
});

it("asks again when the server was away, and not when it refused", async () => {
  asked.mockRejectedValueOnce(new TypeError("Failed to fetch"));
  asked.mockRejectedValueOnce(new Refusal(503, "busy", []));
  asked.mockResolvedValueOnce({ data: {}, response: new Response() });
  edited();
  await pass(20_000);
  expect(asked).toHaveBeenCalledTimes(3);

  asked.mockReset();
  asked.mockRejectedValue(new Refusal(422, "no lap", []));
  edited();
  await pass(20_000);
  expect(asked).toHaveBeenCalledOnce();
});
