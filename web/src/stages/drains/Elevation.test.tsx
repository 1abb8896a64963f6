// @vitest-environment jsdom
import { describe, expect, it } from "vitest";
import { DRAIN, LEVEL } from "../../testing/drains";
import { BOX } from "../../testing/drawings";
import { show, wordsIn } from "../../testing/shown";
import type { Now } from "./elevation";
import { Elevation } from "./Elevation";

function words(now: Partial<Now>, width: number, of: string): SVGTextElement | undefined {
  const page = show(
    <Elevation
      drawing={BOX}
      drain={DRAIN}
      now={{ ...LEVEL, ...now }}
      width={width}
      height={400}
      litres="3.6 L"
      words="a drain"
    />,
  ).container;
  return [...page.querySelectorAll("text")].find((each) => wordsIn(each).includes(of));
}

describe("the elevation's words", () => {
  it("are read on the oil, and on the sheet where the cut shows no oil", () => {
    expect(words({}, 800, "° 3.6 L")?.getAttribute("fill")).toBe("var(--on-oil)");
    expect(words({ levelMm: -127 }, 800, "° 3.6 L")?.getAttribute("fill")).toBe("var(--ink)");
  });

  it("say where it enters in two lines, in three on a phone", () => {
    const lines = (width: number): string[] =>
      [...(words({}, width, "Entry")?.querySelectorAll("tspan") ?? [])].map(wordsIn);
    expect(lines(800)).toHaveLength(1);
    expect(lines(390)).toHaveLength(2);
    expect(lines(390)[1]).toBe("60 mm over the oil now");
    expect(lines(800)[0]).toContain("60 mm over the oil now");
  });
});
