// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { show } from "../../testing/shown";
import { AccountSheet } from "./AccountSheet";
import { Code } from "./Code";

const calls = vi.hoisted(() => ({
  remove: vi.fn(),
  handOver: vi.fn(),
  password: vi.fn(),
  end: vi.fn(),
  owns: true,
  address: "https://192.168.7.4:8750",
}));
vi.mock("../../api/people", () => {
  const member = { joined_at: "2026-11-01T10:00:00Z", seen_at: null };
  const idle = { mutate: vi.fn(), error: null, isPending: false };
  return {
    usePeople: () => ({
      data: {
        workshop: "Reed Lane",
        you_own_it: calls.owns,
        members: [
          { id: 1, username: "ada", is_owner: calls.owns, is_you: true, ...member },
          { id: 2, username: "grace", is_owner: !calls.owns, is_you: false, ...member },
        ],
        invitations: [],
      },
      error: null,
    }),
    useAccess: () => ({
      data: { address: calls.address, code_rows: ["101", "010", "111"], has_authority: true },
    }),
    useSignIns: () => ({
      data: [
        { id: 7, browser: "phone, Android", address: "192.168.7.9", seen_at: member.joined_at },
        {
          id: 8,
          browser: "computer, Linux",
          address: "x",
          seen_at: member.joined_at,
          is_this: true,
        },
      ],
      error: null,
    }),
    useInvite: () => ({ ...idle, data: { id: 3, secret: "s3cret" } }),
    useTakeBack: () => idle,
    useRemoveMember: () => ({ ...idle, mutate: calls.remove }),
    useHandOver: () => ({ ...idle, mutate: calls.handOver }),
    useEndSignIn: () => ({ ...idle, mutate: calls.end }),
    useChangePassword: () => ({ ...idle, mutate: calls.password, isSuccess: false }),
  };
});

beforeEach(() => {
  vi.clearAllMocks();
  calls.owns = true;
  calls.address = "https://192.168.7.4:8750";
  HTMLDialogElement.prototype.showModal = function show(this: HTMLDialogElement) {
    this.open = true;
  };
  HTMLDialogElement.prototype.close = vi.fn();
});

describe("AccountSheet", () => {
  it("lets the owner remove and hand over, asked twice", async () => {
    show(<AccountSheet onClose={vi.fn()} />);
    await userEvent.click(screen.getByRole("button", { name: "remove" }));
    expect(calls.remove).not.toHaveBeenCalled();
    expect(screen.getByText(/the history keeps the name/)).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Remove" }));
    expect(calls.remove).toHaveBeenCalledExactlyOnceWith(2);
    await userEvent.click(screen.getByRole("button", { name: "hand over" }));
    await userEvent.click(screen.getByRole("button", { name: "Hand over" }));
    expect(calls.handOver).toHaveBeenCalledExactlyOnceWith(2);
  });

  it("offers nothing of it to anyone else", () => {
    calls.owns = false;
    show(<AccountSheet onClose={vi.fn()} />);
    expect(screen.queryByRole("button", { name: "remove" })).toBeNull();
    expect(screen.queryByRole("button", { name: "Invite somebody" })).toBeNull();
  });

  it("keeps the invitation's secret behind the hash", () => {
    show(<AccountSheet onClose={vi.fn()} />);
    expect(screen.getByLabelText(/Link of the invitation/)).toHaveProperty(
      "value",
      `${window.location.origin}/join#s3cret`,
    );
  });

  it("ends another sign-in, not this one", async () => {
    show(<AccountSheet onClose={vi.fn()} />);
    await userEvent.click(screen.getByRole("button", { name: "sign out" }));
    expect(calls.end).toHaveBeenCalledExactlyOnceWith(7);
  });

  it("shows a code for the phone only where a phone can reach it", () => {
    show(<AccountSheet onClose={vi.fn()} />);
    expect(screen.getByRole("img", { name: "Code of https://192.168.7.4:8750" })).toBeTruthy();
    document.body.innerHTML = "";
    calls.address = "http://127.0.0.1:8750";
    show(<AccountSheet onClose={vi.fn()} />);
    expect(screen.queryByRole("img")).toBeNull();
    expect(screen.getByText(/start --lan/)).toBeTruthy();
  });
});

describe("Code", () => {
  it("draws each dark field, with a quiet margin of four", () => {
    show(<Code rows={["10", "01"]} words="a code" />);
    const code = screen.getByRole("img", { name: "a code" });
    expect(code.getAttribute("viewBox")).toBe("0 0 10 10");
    expect(code.querySelector("path")?.getAttribute("d")).toBe("M4 4h1v1h-1zM5 5h1v1h-1z");
  });
});
