// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { LAP } from "../testing/logs";
import { show } from "../testing/shown";
import { TrackLine } from "./TrackLine";
import { GripCloud } from "./GripCloud";

/** A square driven anticlockwise: every corner a left one. */
const SQUARE: [number, number][] = [
  [0, 0],
  [50, 0],
  [100, 0],
  [100, 50],
  [100, 100],
  [50, 100],
  [0, 100],
  [0, 50],
  [0, 0],
];

describe("TrackLine", () => {
  it("draws nothing of a line that is none", () => {
    const { container } = show(
      <TrackLine line={[[0, 0]]} marks={[]} here={null} width={100} height={100} />,
    );
    expect(container.querySelector("svg")).toBeNull();
  });

  it("keeps its proportions and puts left on the left", () => {
    show(<TrackLine line={SQUARE} marks={[]} here={0} width={200} height={100} />);
    const here = screen.getByRole("img", { name: "The line driven" }).querySelector("circle");
    // the start, 0 ahead and 0 left, is the lower left corner of the square on the page
    expect(Number(here?.getAttribute("cx"))).toBeCloseTo(100 - 42, 0);
    expect(Number(here?.getAttribute("cy"))).toBeCloseTo(50 + 42, 0);
  });

  it("names corners on their outside", () => {
    show(
      <TrackLine
        line={SQUARE}
        marks={[]}
        here={null}
        width={200}
        height={200}
        labels={[{ at: [100, 50], words: "2", hand: "left", picked: false }]}
      />,
    );
    const [dot, words] = ["circle", "text"].map((tag) =>
      screen.getByRole("img", { name: "The line driven" }).querySelector(`g > ${tag}`),
    );
    // driven upward on the page's right side, turning left: outside is further right
    expect(Number(words?.getAttribute("x"))).toBeGreaterThan(Number(dot?.getAttribute("cx")));
  });

  it("marks dips at their share of the lap", () => {
    const { container } = show(
      <TrackLine line={SQUARE} marks={[0.25, 0.5]} here={null} width={200} height={200} />,
    );
    expect(container.querySelectorAll("path[fill='var(--bad)']")).toHaveLength(2);
  });
});

describe("GripCloud", () => {
  it("draws every moment, and a heavier line for what is held longer", () => {
    const { container } = show(<GripCloud cloud={LAP.cloud_g} held={LAP.held} size={300} />);
    expect(container.querySelectorAll("circle[fill='var(--line)']")).toHaveLength(2);
    const [short, long] = [...container.querySelectorAll("[data-held]")].map((line) =>
      Number(line.getAttribute("stroke-width")),
    );
    expect(long).toBeGreaterThan(short ?? 0);
  });
  it("puts a left turn to the right: there the oil is thrown right", () => {
    const { container } = show(<GripCloud cloud={[[1, 0]]} held={LAP.held} size={300} />);
    const dot = container.querySelector("circle[fill='var(--line)']");
    expect(Number(dot?.getAttribute("cx"))).toBeGreaterThan(150);
  });
});
