import { expect, it } from "vitest";
import { BOX } from "../testing/drawings";
import { heldWords } from "./Numbers";

const litres = (each: number): string => each.toFixed(1);

it("says what the circuit holds, and where", () => {
  expect(heldWords(BOX.held, 2.2, litres, "L")).toBe(
    "Running at 4000 rpm the circuit holds 2.2 L: 1.3 under pressure, 0.5 in the heads, 0.4 off the crank.",
  );
});

it("adds what is on its way back to a tank, so that it adds up", () => {
  const held = { ...BOX.held, total_l: 3.2, coming_back_l: 1 };
  expect(heldWords(held, 3.2, litres, "L")).toContain(
    "0.4 off the crank, 1.0 in the lines back to the tank.",
  );
});

it("says how far that is from what its builder said", () => {
  expect(heldWords(BOX.held, 2.04, litres, "L")).toContain("0.2 L more than was said");
  expect(heldWords(BOX.held, 2.06, litres, "L")).not.toContain("than was said");
  expect(heldWords({ ...BOX.held, learned_l: -0.3 }, 2.2, litres, "L")).toContain(
    ", 0.3 less up top by the track book.",
  );
});
