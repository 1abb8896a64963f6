// @vitest-environment jsdom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { OnShare } from "../../api/logs";
import { UNDERSTOOD } from "../../testing/logs";
import { show } from "../../testing/shown";
import { LogImport } from "./LogImport";

const FILE = { id: 3, name: "tuesday.csv", size_mb: 1.2, made_at: "2026-11-25T00:00:00Z" };
const calls = vi.hoisted(() => ({ upload: vi.fn(), read: vi.fn(), keep: vi.fn(), drop: vi.fn() }));

vi.mock("../../api/logs", () => ({
  uploadLog: calls.upload,
  readLog: calls.read,
  useLogUploads: () => ({ data: [FILE] }),
  useDropLog: () => ({ mutate: calls.drop }),
  useKeepLaps: () => ({ mutate: calls.keep, reset: vi.fn(), isPending: false, error: null }),
}));

const onKept = vi.fn();
function importer(): void {
  show(
    <QueryClientProvider client={new QueryClient()}>
      <LogImport onKept={onKept} />
    </QueryClientProvider>,
  );
}
const choose = (name = "tuesday.csv"): Promise<void> =>
  userEvent.upload(screen.getByLabelText("Logger file"), new File(["x"], name));

beforeEach(() => {
  vi.clearAllMocks();
  calls.upload.mockResolvedValue(FILE);
  calls.read.mockResolvedValue(UNDERSTOOD);
});

describe("LogImport", () => {
  it("uploads, reads and keeps", async () => {
    importer();
    await choose();
    expect(await screen.findByText("Understood")).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: /^Keep 2 laps/ }));
    const [body, then] = calls.keep.mock.lastCall as [
      object,
      { onSuccess: (laps: { id: number }[]) => void },
    ];
    expect(body).toMatchObject({
      file_id: 3,
      leave_out_bad_rows: false,
      laps: [
        { name: "tuesday, lap 2", start_s: 20, end_s: 100 },
        { name: "tuesday, lap 3", start_s: 100, end_s: 179 },
      ],
    });
    then.onSuccess([{ id: 8 }, { id: 9 }]);
    expect(onKept).toHaveBeenCalledExactlyOnceWith(9);
  });

  it("asks for the column of another clock before it reads anew", async () => {
    importer();
    await choose();
    await screen.findByText("Understood");
    calls.read.mockClear();
    await userEvent.selectOptions(screen.getByLabelText("What tells the time"), "distance");
    expect(screen.getByText("choose the column that has the distance")).toBeTruthy();
    expect(screen.queryByRole("button", { name: /^Keep 2 laps/ })).toBeNull();
    expect(calls.read).not.toHaveBeenCalled();
    const first = UNDERSTOOD.headings[0] ?? "";
    await userEvent.selectOptions(screen.getByLabelText("Column of distance"), first);
    expect(calls.read).toHaveBeenCalledOnce();
  });

  it("shows how far it is, and can be cancelled", async () => {
    let ended: AbortSignal | null = null;
    calls.upload.mockImplementation((_file: File, onShare: OnShare, signal: AbortSignal) => {
      ended = signal;
      onShare(0.4);
      return new Promise((_, reject) =>
        signal.addEventListener("abort", () => reject(new DOMException("", "AbortError"))),
      );
    });
    importer();
    await choose();
    expect(screen.getByRole("progressbar", { name: "Uploading tuesday.csv" })).toHaveProperty(
      "value",
      0.4,
    );
    await userEvent.click(screen.getByRole("button", { name: "Cancel" }));
    await waitFor(() => expect(screen.queryByRole("progressbar")).toBeNull());
    expect(ended).toHaveProperty("aborted", true);
    expect(screen.queryByRole("alert")).toBeNull();
    expect(calls.read).not.toHaveBeenCalled();
  });

  it("says why a file was refused", async () => {
    calls.upload.mockRejectedValue(new Error("is not text"));
    importer();
    await choose();
    expect((await screen.findByRole("alert")).textContent).toContain("is not text");
  });

  it("goes on with a file that was uploaded before, and can drop it", async () => {
    importer();
    await userEvent.click(screen.getByRole("button", { name: "Remove the file tuesday.csv" }));
    expect(calls.drop).toHaveBeenCalledExactlyOnceWith(3);
    await userEvent.click(screen.getByRole("button", { name: "tuesday.csv" }));
    expect(await screen.findByText("Understood")).toBeTruthy();
    expect(calls.upload).not.toHaveBeenCalled();
  });

  it("reads again with what was changed", async () => {
    importer();
    await choose();
    await screen.findByText("Understood");
    await userEvent.selectOptions(screen.getByLabelText("Unit of speed"), "mph");
    await waitFor(() => expect(calls.read).toHaveBeenCalledTimes(2));
    expect(calls.read.mock.lastCall?.[1]).toMatchObject({ columns: { speed: { unit: "mph" } } });
  });
});
