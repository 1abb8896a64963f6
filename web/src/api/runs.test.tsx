// @vitest-environment jsdom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { renderHook } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, expect, it, vi } from "vitest";
import { DUNLIN_BUILD } from "../testing/documents";
import { client } from "./client";
import { useLatest, type Latest } from "./runs";

afterEach(() => {
  vi.useRealTimers();
  vi.restoreAllMocks();
});

const nothing = { under_way: null, elsewhere: 0, finished: null } as unknown as Latest;

it("looks at a run under way often, and at what is known now and then", async () => {
  vi.useFakeTimers();
  let told = { ...nothing, elsewhere: 1 };
  const asked = vi
    .spyOn(client, "GET")
    .mockImplementation((() => Promise.resolve({ data: told, response: new Response() })) as never);
  const { unmount } = renderHook(() => useLatest({ ...DUNLIN_BUILD, lap_id: 3 }), {
    wrapper: ({ children }: { children: ReactNode }) => (
      <QueryClientProvider client={new QueryClient()}>{children}</QueryClientProvider>
    ),
  });
  await vi.advanceTimersByTimeAsync(1_600);
  expect(asked.mock.calls.length).toBeGreaterThanOrEqual(3);
  told = nothing;
  await vi.advanceTimersByTimeAsync(1_000);
  const before = asked.mock.calls.length;
  await vi.advanceTimersByTimeAsync(10_000);
  expect(asked.mock.calls.length).toBe(before);
  await vi.advanceTimersByTimeAsync(6_000);
  expect(asked.mock.calls.length).toBe(before + 1);
  unmount();
});
