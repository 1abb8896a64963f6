import { describe, expect, it } from "vitest";
import { csvOf, fileNameOf, thinned } from "./csv";

describe("csvOf", () => {
  it("quotes what needs it and disarms formulas, but not negative numbers", () => {
    const table = {
      title: "t",
      headings: ["name", "g"],
      rows: [
        ['say "hi", twice', -1.5],
        ["=SUM(A1)", 0],
        ["-1+cmd", 2],
      ],
    };
    expect(csvOf(table)).toBe(
      'name,g\r\n"say ""hi"", twice",-1.5\r\n\'=SUM(A1),0\r\n\'-1+cmd,2\r\n',
    );
  });
});

describe("thinned", () => {
  it("keeps first and last", () => {
    expect(thinned([0, 1, 2, 3, 4, 5, 6], 3)).toEqual([0, 3, 6]);
    expect(thinned([1, 2], 3)).toEqual([1, 2]);
  });
});

describe("fileNameOf", () => {
  it("is plain", () => {
    expect(fileNameOf("Saltmarsh Ring, lap 7", "csv")).toBe("saltmarsh-ring-lap-7.csv");
    expect(fileNameOf("…", "png")).toBe("bilge.png");
  });
});
