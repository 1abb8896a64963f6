// @vitest-environment jsdom
import { QueryClient, QueryClientProvider, useQuery } from "@tanstack/react-query";
import { act, renderHook, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { expect, it, vi } from "vitest";
import { LAP } from "../testing/logs";
import { useEditCorners } from "./logs";

vi.mock("./client", async (whole) => ({
  ...(await whole<typeof import("./client")>()),
  client: { PUT: () => ({ data: LAP, response: new Response() }) },
}));

it("asks anew for what was on its way when a lap was changed, under whatever name", async () => {
  const queries = new QueryClient();
  const answers: ((words: string) => void)[] = [];
  const ask = (): Promise<string> => new Promise((answer) => answers.push(answer));
  const { result } = renderHook(
    () => ({
      verdict: useQuery({ queryKey: ["runs", "latest", 1], queryFn: ask }),
      oil: useQuery({ queryKey: ["frames", 1], queryFn: () => "oil", staleTime: Infinity }),
      edit: useEditCorners(),
    }),
    {
      wrapper: ({ children }: { children: ReactNode }) => (
        <QueryClientProvider client={queries}>{children}</QueryClientProvider>
      ),
    },
  );
  await waitFor(() => expect(result.current.oil.data).toBe("oil"));
  act(() => result.current.edit.mutate({ lapId: LAP.id, corners: null }));
  await waitFor(() => expect(answers).toHaveLength(2));
  act(() => answers[0]?.("as it was before"));
  act(() => answers[1]?.("as it is"));
  await waitFor(() => expect(result.current.verdict.data).toBe("as it is"));
  expect(queries.getQueryState(["frames", 1])?.dataUpdateCount).toBe(1);
});
