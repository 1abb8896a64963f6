// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import { lazy, Suspense } from "react";
import { describe, expect, it, vi } from "vitest";
import { show } from "../testing/shown";
import { ScreenFault } from "./ScreenFault";

describe("a screen that cannot be fetched", () => {
  it("says so with a way to try again, and takes nothing else away", async () => {
    const silent = vi.spyOn(console, "error").mockImplementation(() => undefined);
    const Gone = lazy(() => Promise.reject(new Error("Failed to fetch the part")));
    show(
      <>
        <p>the head</p>
        <ScreenFault>
          <Suspense fallback="on its way">
            <Gone />
          </Suspense>
        </ScreenFault>
      </>,
    );
    expect(await screen.findByText(/Failed to fetch the part/)).toBeTruthy();
    expect(screen.getByRole("button")).toBeTruthy();
    expect(screen.getByText("the head")).toBeTruthy();
    silent.mockRestore();
  });

  it("is shown when it comes", () => {
    show(<ScreenFault>the screen</ScreenFault>);
    expect(screen.getByText("the screen")).toBeTruthy();
  });
});
