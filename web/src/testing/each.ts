/** Before each file of tests: what its page has, and that nothing of a test is left for the next. */
import { cleanup } from "@testing-library/react";
import { afterEach, beforeEach, vi } from "vitest";

if (typeof document !== "undefined") {
  // not in jsdom: the browser's own dialog, and watching sizes
  HTMLDialogElement.prototype.showModal = function showModal() {
    this.open = true;
  };
  HTMLDialogElement.prototype.close = function close() {
    this.open = false;
  };
  Element.prototype.scrollIntoView = () => undefined;
  beforeEach(() => {
    vi.stubGlobal(
      "ResizeObserver",
      class {
        observe = (): void => undefined;
        disconnect = (): void => undefined;
      },
    );
  });
  afterEach(cleanup);
}
