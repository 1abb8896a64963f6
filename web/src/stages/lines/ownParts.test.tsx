// @vitest-environment jsdom
import { cleanup, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import * as lines from "../../api/lines";
import * as options from "../../api/options";
import { SETTINGS } from "../../testing/settings";
import { show } from "../../testing/shown";
import { showInBuild, viewOf } from "../../testing/view";
import { STAGE } from "../../testing/lines";
import { BuyBesides } from "./BuyBesides";
import { keyOf, OwnParts, partOf } from "./OwnParts";

const LUBE = {
  key: "own_lube",
  words: "assembly lube",
  per: "piece",
  cost: 9.5,
  lead_days: 12,
  weight_kg: 0,
  end_1: "",
  end_2: "",
  angle_deg: 0,
  height_mm: 0,
  spanner: "",
};
const ADAPTOR = {
  ...LUBE,
  key: "own_m18_12",
  words: "adaptor, M18 to 12",
  end_1: "metric M18x1.5 male",
  end_2: "flare 12 male",
};
const SHOP = {
  parts: [{ ...LUBE, key: "tee", words: "tee", own: false }],
  own_parts: [LUBE, ADAPTOR],
  threads: { "metric M18x1.5 male": "M18x1.5, male", "flare 12 male": "flare 12, male" },
  operations: [],
};
const mutate = vi.fn();
const idle = { mutate, isPending: false, error: null } as never;

function shop(data: unknown, error: Error | null = null): void {
  vi.spyOn(options, "useShop").mockReturnValue({ data, error } as never);
  vi.spyOn(lines, "useSetOwnPart").mockReturnValue(idle);
  vi.spyOn(lines, "useDropOwnPart").mockReturnValue(idle);
  vi.spyOn(lines, "useBuyBesides").mockReturnValue(idle);
}

afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
  mutate.mockReset();
});

describe("parts of our own", () => {
  it("are kept by their name in small letters", () => {
    expect(keyOf("Adaptor, M18 to 12")).toBe("own_adaptor_m18_to_12");
    expect(keyOf("x".repeat(50))).toBe(`own_${"x".repeat(30)}`);
  });

  it("have ends and a height where they are fittings alone", () => {
    const filled = {
      words: " lube ",
      per: "piece",
      cost: "9,5",
      days: "12",
      first: "",
      second: "",
      turn: "90",
      height: "",
      spanner: "",
    } as const;
    expect(partOf(filled, SETTINGS)).toMatchObject({
      words: "lube",
      cost: 9.5,
      angle_deg: 0,
      height_mm: 0,
    });
    const ends = { first: "metric M18x1.5 male", second: "flare 12 male", height: "31" };
    const own = { ...filled, ...ends };
    expect(partOf(own, SETTINGS)).toMatchObject({ angle_deg: 90, height_mm: 31 });
    const inches = partOf({ ...own, height: "1.5" }, { ...SETTINGS, system: "us" });
    expect(inches.height_mm).toBeCloseTo(38.1);
  });

  it("are listed with their ends, and taken out", async () => {
    shop(SHOP);
    show(<OwnParts />);
    expect(screen.getByText(/M18x1.5, male to flare 12, male/)).toBeTruthy();
    await userEvent.click(
      screen.getByRole("button", { name: "Take assembly lube out of the catalogue", hidden: true }),
    );
    expect(mutate).toHaveBeenCalledWith("own_lube");
  });

  it("ask of a fitting for its other end, and are added", async () => {
    shop(SHOP);
    show(<OwnParts />);
    const form = within(screen.getByRole("form", { name: "A part of our own", hidden: true }));
    expect(form.queryByLabelText("The other end")).toBeNull();
    await userEvent.type(form.getByLabelText("Part"), "M18 to 12");
    await userEvent.type(form.getByLabelText("Cost of one"), "15");
    await userEvent.type(form.getByLabelText("Days until it is here"), "4");
    await userEvent.selectOptions(form.getByLabelText("One end"), "metric M18x1.5 male");
    await userEvent.selectOptions(form.getByLabelText("The other end"), "flare 12 male");
    await userEvent.type(form.getByLabelText("Joint to joint, mm"), "31");
    await userEvent.click(form.getByText("Add it"));
    expect(mutate.mock.lastCall?.[0]).toMatchObject({
      key: "own_m18_to_12",
      end_1: "metric M18x1.5 male",
      end_2: "flare 12 male",
      lead_days: 4,
    });
  });

  it("say that there are none, are coming, or why not", () => {
    shop({ ...SHOP, own_parts: [] });
    show(<OwnParts />);
    expect(screen.getByText("None yet.")).toBeTruthy();
    cleanup();
    shop(undefined);
    show(<OwnParts />);
    expect(screen.getByText("Looking them up…")).toBeTruthy();
    cleanup();
    shop(undefined, new Error("The server is away."));
    show(<OwnParts />);
    expect(screen.getByRole("alert", { hidden: true }).textContent).toContain("away");
  });
});

describe("what is bought besides", () => {
  it("is put on the order and taken off it", async () => {
    shop(SHOP);
    showInBuild(<BuyBesides stage={STAGE} />, viewOf({}));
    expect(screen.getByText("Bought besides: 1")).toBeTruthy();
    const form = within(
      screen.getByRole("form", { name: "Something bought besides", hidden: true }),
    );
    await userEvent.selectOptions(form.getByLabelText("Part"), "own_lube");
    await userEvent.clear(form.getByLabelText("How many"));
    await userEvent.type(form.getByLabelText("How many"), "2");
    await userEvent.type(form.getByLabelText("What for"), "first start");
    await userEvent.click(form.getByText("Put it on the order"));
    expect(mutate.mock.lastCall?.[0]).toEqual({ part: "own_lube", count: 2, why: "first start" });
    await userEvent.click(
      screen.getByRole("button", { name: "Take tee off the order", hidden: true }),
    );
    expect(mutate.mock.lastCall?.[0]).toEqual({ part: "tee", count: 0, why: "" });
  });
});
