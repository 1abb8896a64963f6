import type { LinesStage } from "../../api/lines";
import type { Table } from "../../parts/csv";

/** All lines as figures: one row a line. */
export function linesTable({ lines: { lines } }: LinesStage): Table {
  return {
    title: "Lines",
    headings: [
      "line",
      "name",
      "carries",
      "made of",
      "size",
      "length [mm]",
      "cut [mm]",
      "tightest bend [mm]",
      "speed [m/s]",
      "takes hot [bar]",
      "nearest",
      "gap [mm]",
      "says",
    ],
    rows: lines.map((line) => [
      line.number,
      line.name,
      line.service,
      line.kind === "hose" ? "hose" : "hard line",
      line.dash ?? "",
      line.length_mm ?? "",
      line.cut_mm ?? "",
      line.tightest_mm ?? "",
      line.speed_m_s ?? "",
      line.loss_bar ?? "",
      line.gaps[0]?.name ?? "",
      line.gaps[0]?.gap_mm ?? "",
      line.checks.find(({ state }) => state !== "good")?.words ?? "sound",
    ]),
  };
}
