// @vitest-environment jsdom
import { act, fireEvent, screen } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";
import { show } from "../testing/shown";
import { Renewed } from "./Renewed";

function workerOf(controller: object | null): EventTarget {
  const worker = Object.assign(new EventTarget(), { controller });
  vi.stubGlobal("navigator", { serviceWorker: worker });
  return worker;
}
const changes = (worker: EventTarget): void =>
  act(() => void worker.dispatchEvent(new Event("controllerchange")));

afterEach(() => vi.unstubAllGlobals());

it("offers the newer page once another worker took over from the one that opened this", () => {
  const worker = workerOf({});
  show(<Renewed />);
  expect(screen.queryByRole("status")).toBeNull();
  changes(worker);
  expect(screen.getByRole("button", { name: "Open the new one" })).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "Later" }));
  expect(screen.queryByRole("status")).toBeNull();
});

it("says nothing on a page that came from the server itself, or without workers", () => {
  const worker = workerOf(null);
  const { unmount } = show(<Renewed />);
  changes(worker);
  expect(screen.queryByRole("status")).toBeNull();
  unmount();
  vi.stubGlobal("navigator", {});
  show(<Renewed />);
  expect(screen.queryByRole("status")).toBeNull();
});
