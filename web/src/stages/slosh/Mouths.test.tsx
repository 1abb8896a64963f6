// @vitest-environment jsdom
import { describe, expect, it } from "vitest";
import type { Moving } from "../../api/runs";
import { show } from "../../testing/shown";
import { Mouths } from "./Mouths";

const mouth = (name: string, dry_s: number, least_cover_mm: number): Moving["mouths"][number] => ({
  name,
  dry_s,
  draws_air_s: dry_s,
  least_cover_mm,
  least_cover_at_s: 1,
  dips: [],
  samples: { cover_mm: [], gas_share: [], drawn_l_min: [], swallowed: [] },
});

describe("the mouths of a pan", () => {
  it("say nothing where there is one", () => {
    expect(show(<Mouths mouths={[mouth("pickup", 1, -2)]} />).container.textContent).toBe("");
  });

  it("are told each by its name, the one that feeds the gallery first", () => {
    const { container } = show(
      <Mouths mouths={[mouth("pickup", 0, 12), mouth("front scavenge", 3.4, -5)]} />,
    );
    const rows = [...container.querySelectorAll("li")].map((each) => each.textContent);
    expect(rows[0]).toContain("pickup, feeds the gallery");
    expect(rows[0]).toContain("0.0 s dry12 mm at the least");
    expect(rows[1]).toContain("front scavenge3.4 s drybare");
  });
});
