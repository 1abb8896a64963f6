import { describe, expect, it } from "vitest";
import { judgedBy, type OverLap } from "./worst";

const sound = {
  state: "sound",
  headline: "Sound",
  sentence: "The pickup stays covered all lap.",
  dry_s: 0,
  dip_count: 0,
} as const;
const dry = { ...sound, state: "not_safe", headline: "Not safe", dry_s: 0.8 } as const;

const row = (lap_id: number, lap_name: string, verdict: OverLap["verdict"]): OverLap => ({
  lap_id,
  lap_name,
  verdict,
  oil: verdict,
  oil_rank: verdict.state === "sound" ? 1 : 0,
  speaks: "oil",
  model: lap_id === 2 ? "Moving oil, coarse cells" : "Settled oil",
});

const SHOWN = { verdict: sound, lapId: 1, moves: false };

describe("judgedBy", () => {
  it("is the verdict on the screen while there is nothing else", () => {
    expect(judgedBy(SHOWN, [])).toEqual({
      verdict: sound,
      lapName: null,
      moves: false,
      oil: sound,
    });
    expect(judgedBy(SHOWN, [row(1, "dry", sound)]).verdict).toBe(sound);
  });

  it("is the worst lap's, and says which and of which oil", () => {
    const judged = judgedBy(SHOWN, [row(2, "Rain", dry), row(1, "dry", sound)]);
    expect(judged.verdict).toMatchObject({ state: "not_safe", dry_s: 0.8 });
    expect(judged.verdict.sentence).toBe("Over Rain: the pickup stays covered all lap.");
    expect(judged).toMatchObject({ lapName: "Rain", moves: true });
  });

  it("is the shown one's as it is on the screen where that is the worst", () => {
    const over = [row(1, "dry", dry), row(2, "Rain", sound)];
    const judged = judgedBy({ verdict: sound, lapId: 1, moves: true }, over);
    expect(judged.verdict).toMatchObject({ state: "sound" });
    expect(judged).toMatchObject({ lapName: "dry", moves: true });
  });

  it("speaks of the drains where these are worse, and keeps the oil's own verdict", () => {
    const drained: OverLap = { ...row(1, "dry", dry), oil: sound, oil_rank: 0, speaks: "drains" };
    const judged = judgedBy({ ...SHOWN, moves: true }, [drained]);
    expect(judged.verdict.state).toBe("not_safe");
    expect(judged.oil.state).toBe("sound");
  });
});
