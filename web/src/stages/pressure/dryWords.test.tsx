// @vitest-environment jsdom
import { expect, it } from "vitest";
import type { Component } from "../../document/circuit/circuit";
import { DUNLIN_BUILD } from "../../testing/documents";
import { BOX } from "../../testing/drawings";
import { STAGE } from "../../testing/pressure";
import { wordsIn } from "../../testing/shown";
import { showInBuild, viewOf } from "../../testing/view";
import { CircuitWords } from "./CircuitWords";
import { nowAt } from "./now";
import { planOf } from "./plan";

const { circuit } = DUNLIN_BUILD.document;
const tank = { id: "c90", kind: "tank", name: "oil tank" } as unknown as Component;

function told(components: readonly Component[]): string {
  const document = {
    ...DUNLIN_BUILD.document,
    circuit: { ...circuit, components: [...components] },
  };
  const plan = planOf(STAGE.layout, components, BOX, 780, 430);
  const words = (
    <svg>
      <CircuitWords stage={STAGE} plan={plan} now={nowAt(STAGE, 0)} passes={false} isDip={false} />
    </svg>
  );
  const { container, unmount } = showInBuild(
    words,
    viewOf({ build: { ...DUNLIN_BUILD, document } }),
  );
  const found = wordsIn(container);
  unmount();
  return found;
}

it("says of a dry sump that the pump draws from its tank, of a wet one from the pan", () => {
  const wet = told(circuit.components);
  expect(wet).toContain("Pickup tube");
  expect(wet).toContain("in the pan");
  const dry = told([...circuit.components, tank]);
  expect(dry).toContain("From the tank");
  expect(dry).toContain("Tank's outlet");
  expect(dry).toContain("in tank, pan and lines");
  expect(dry).not.toContain("in the pan");
});
