// @vitest-environment jsdom
import { describe, expect, it } from "vitest";
import type { Component } from "../../document/circuit/circuit";
import { momentAt } from "../../plots/dryMoment";
import { DUNLIN_BUILD } from "../../testing/documents";
import { BOX } from "../../testing/drawings";
import { DRY, OVER } from "../../testing/dry";
import { STAGE } from "../../testing/pressure";
import { wordsIn } from "../../testing/shown";
import { showInBuild, viewOf } from "../../testing/view";
import { CircuitWords } from "./CircuitWords";
import { nowAt } from "./now";
import { planOf } from "./plan";
import type { DryNow } from "./useDryNow";

const { circuit } = DUNLIN_BUILD.document;
const tank = { id: "c90", kind: "tank", name: "oil tank" } as unknown as Component;

const { tank: ITS } = DRY;

function told(components: readonly Component[], dry: DryNow | null, mouthGas = 0): string {
  const plan = planOf(STAGE.layout, components, BOX, 780, 430);
  const now = { ...nowAt(STAGE, 0), mouthGas };
  const words = (
    <svg>
      <CircuitWords stage={STAGE} plan={plan} now={now} dry={dry} passes={false} isDip={false} />
    </svg>
  );
  const { container, unmount } = showInBuild(words, viewOf({ build: DUNLIN_BUILD }));
  const found = wordsIn(container);
  unmount();
  return found;
}

describe("what the drawing says of where the pump draws from", () => {
  it("is the pan of a wet sump", () => {
    const wet = told(circuit.components, null);
    expect(wet).toContain("Pickup tube");
    expect(wet).toContain("Mouth covered");
    expect(wet).toContain("in the pan");
  });

  it("is the tank of a dry one, with what pan and lines have at the moment", () => {
    const dry = told([...circuit.components, tank], {
      tank: ITS,
      moment: momentAt(OVER, 1),
      lean: 0,
    });
    expect(dry).toContain("From the tank");
    expect(dry).toContain(`4.8 of ${ITS.volume_l.toFixed(1)} L`);
    expect(dry).toContain("outlet covered");
    expect(dry).toContain("0.7 L in the pan");
    expect(dry).toContain("0.6 L coming back,");
    expect(dry).toContain("55 % air");
    expect(dry).not.toContain("Mouth");
  });

  it("is told in one where there is no lap, and until it has come", () => {
    for (const dry of [null, { tank: ITS, moment: null, lean: 0 }]) {
      const words = told([...circuit.components, tank], dry, 0.4);
      expect(words).toContain("in tank, pan and lines");
      expect(words).toContain("outlet: 40 % air");
      expect(words).not.toContain("in the pan");
    }
  });
});

it("draws tank, pan and their lines on the sheet at every size, apart from each other", () => {
  for (const [width, height] of [
    [680, 372],
    [780, 430],
    [1200, 700],
  ] as const) {
    const { dry, pipes } = planOf(STAGE.layout, [...circuit.components, tank], BOX, width, height);
    if (!dry) throw new Error("no tank is drawn");
    const { tank: box, pan, feed, back } = dry;
    for (const [x, y] of [...feed.line, ...back.line, [pan.x + pan.width, pan.y + pan.height]]) {
      expect(x).toBeGreaterThan(0);
      expect(x).toBeLessThan(width);
      expect(y).toBeGreaterThan(0);
      expect(y).toBeLessThan(height);
    }
    expect(box.x + box.width).toBeLessThan(dry.scavenge[0] - 20);
    expect(dry.scavenge[0] + 20).toBeLessThan(pan.x);
    expect(pipes.some(({ key }) => key === "pickup tube")).toBe(false);
  }
});
