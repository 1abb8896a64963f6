// @vitest-environment jsdom
import { screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState, type ReactElement } from "react";
import { describe, expect, it, vi } from "vitest";
import { show } from "../testing/shown";
import { freeName, partAt, Records, type Spec } from "./Records";

describe("a part of a record", () => {
  it("is found by its path", () => {
    expect(partAt({ from_mm: [1, 2, 3], name: "rack" }, "from_mm.2")).toBe(3);
    expect(partAt({ name: "rack" }, "name")).toBe("rack");
    expect(partAt({ name: "rack" }, "from_mm.2")).toBeUndefined();
  });
});

describe("a free name", () => {
  it("counts on", () => {
    expect(freeName([], "boss")).toBe("boss");
    expect(freeName([{ name: "boss" }, { name: "boss 2" }], "boss")).toBe("boss 3");
  });
});

interface Thing {
  name: string;
  kind: string;
  blocked: boolean;
  bore_mm: number;
}
const SPECS: readonly Spec[] = [
  { kind: "text", key: "name", label: "Name" },
  {
    kind: "choice",
    key: "kind",
    label: "What it is",
    choices: [
      ["plug", "a plug"],
      ["drain", "a drain"],
    ],
  },
  { kind: "switch", key: "blocked", label: "Blocked" },
  { kind: "figure", key: "bore_mm", label: "Bore" },
];

function things(records: Thing[]) {
  const onPut = vi.fn();
  const onType = vi.fn(() => Promise.resolve());
  show(
    <Records
      records={records}
      path="pan.bosses"
      empty="None yet."
      specsOf={() => SPECS}
      nameOf={({ name }) => name}
      additions={[
        {
          words: "Add a plug",
          make: () => ({ name: "plug", kind: "plug", blocked: false, bore_mm: 14 }),
        },
      ]}
      onType={onType}
      onPut={onPut}
    />,
  );
  return { onPut, onType };
}

const PLUG: Thing = { name: "plug", kind: "plug", blocked: false, bore_mm: 14 };
const DRAIN: Thing = { name: "drain", kind: "drain", blocked: false, bore_mm: 16 };

describe("Records", () => {
  it("says what to do while there are none, and adds one", async () => {
    const { onPut } = things([]);
    expect(screen.getByText("None yet.")).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Add a plug" }));
    expect(onPut).toHaveBeenCalledExactlyOnceWith([PLUG], "plug added");
  });

  it("opens what was put in, for its own figures", async () => {
    function Kept(): ReactElement {
      const [records, setRecords] = useState([PLUG]);
      return (
        <Records
          records={records}
          path="pan.bosses"
          empty="None yet."
          specsOf={() => SPECS}
          nameOf={({ name }) => name}
          additions={[{ words: "Add a drain", make: () => DRAIN }]}
          onType={() => Promise.resolve()}
          onPut={setRecords}
        />
      );
    }
    show(<Kept />);
    await userEvent.click(screen.getByRole("button", { name: "Add a drain" }));
    expect(screen.getByText("drain").closest("details")?.open).toBe(true);
    expect(screen.getByText("plug").closest("details")?.open).toBe(false);
  });

  it("removes the one that is meant", async () => {
    const { onPut } = things([PLUG, DRAIN]);
    await userEvent.click(screen.getByRole("button", { name: "Remove drain" }));
    expect(onPut).toHaveBeenCalledExactlyOnceWith([PLUG], "drain removed");
  });

  it("sends a figure as it is typed, by its own path", async () => {
    const { onType, onPut } = things([PLUG, DRAIN]);
    const second = screen.getByText("drain").closest("details");
    const bore = within(second ?? document.body).getByLabelText("Bore");
    await userEvent.clear(bore);
    await userEvent.type(bore, "3/4 in{Enter}");
    expect(onType).toHaveBeenCalledExactlyOnceWith(["pan.bosses.1.bore_mm"], "3/4 in");
    expect(onPut).not.toHaveBeenCalled();
  });

  it("changes words, choices and switches of one and leaves the others", async () => {
    const { onPut } = things([PLUG, DRAIN]);
    const second = within(screen.getByText("drain").closest("details") ?? document.body);
    await userEvent.selectOptions(second.getByLabelText("What it is"), "plug");
    expect(onPut).toHaveBeenLastCalledWith([PLUG, { ...DRAIN, kind: "plug" }], "drain changed");
    await userEvent.click(second.getByLabelText("Blocked"));
    expect(onPut).toHaveBeenLastCalledWith([PLUG, { ...DRAIN, blocked: true }], "drain changed");
    const name = second.getByLabelText("Name");
    await userEvent.clear(name);
    await userEvent.type(name, "turbo{Enter}");
    expect(onPut).toHaveBeenLastCalledWith([PLUG, { ...DRAIN, name: "turbo" }], "turbo changed");
  });

  it("does not take a blank name", async () => {
    const { onPut } = things([PLUG]);
    const name = screen.getByLabelText("Name");
    await userEvent.clear(name);
    await userEvent.type(name, "  {Enter}");
    expect(onPut).not.toHaveBeenCalled();
  });
});
