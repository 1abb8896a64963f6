import { describe, expect, it } from "vitest";
import { STAGE } from "../../testing/pressure";
import { SETTINGS } from "../../testing/settings";
import { toldAt, valveWords } from "./sentence";

const LAP = {
  corners: [{ number: 2, hand: "left", start_s: 0.6, end_s: 1.3, name: null }],
  samples: { time_s: [0, 1, 2], side_g: [0, 1.1, 0], fore_g: [0, -0.2, 0] },
} as never;

describe("the moment in words", () => {
  it("says where, what the pump swallows, and what the gallery has", () => {
    const { title, words } = toldAt(STAGE, LAP, 1, 112, 0.6, SETTINGS);
    expect(title).toBe(
      "Corner 2, left, at 1.0 s: the pump swallows 60 % air, the gallery is down to 2.4 bar",
    );
    expect(words).toContain("5400 rpm, usual 5.0 bar, under 3.0 bar a dip · oil 112 °C");
  });
  it("says that the bottle holds it while it is no dip", () => {
    expect(toldAt(STAGE, LAP, 0.5, 112, 0.6, SETTINGS).title).toContain(
      "the bottle holds the gallery at 4.0 bar",
    );
  });
  it("says what the bottle adds, and takes to be full again", () => {
    expect(toldAt(STAGE, LAP, 1, 112, 0.6, SETTINGS).sentence).toContain(
      "The bottle adds 15.0 L/min",
    );
    expect(toldAt(STAGE, LAP, 2, 112, 0.6, SETTINGS).sentence).toContain("takes 12.0 L/min");
    expect(toldAt(STAGE, LAP, 1, 112, 0.6, SETTINGS).sentence).toMatch(/^The mouth lets in/);
    expect(toldAt(STAGE, LAP, 1, 112, 0.6, SETTINGS, true).sentence).toMatch(/^The tank gives/);
  });
  it("is level and steady without a lap", () => {
    expect(toldAt(STAGE, null, 0, 90, 0.6, SETTINGS).title).toBe(
      "Level and steady: the pump draws oil, the gallery has 5.0 bar",
    );
  });
});

it("tells of an electric valve, and of its chatter where it would", () => {
  expect(valveWords(1, 14)).toBe(
    "let oil out once over the lap, held open a second each time (ours); let go as soon as the pressure is back it would open 14 times: it chatters",
  );
  expect(valveWords(3, 3)).toBe(
    "let oil out 3 times over the lap, held open a second each time (ours)",
  );
  expect(valveWords(2, null)).not.toContain("chatters");
});
