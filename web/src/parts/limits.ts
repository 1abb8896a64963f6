import type { Schemas } from "../api/client";

type Rule = Schemas["RuleOut"];

/** Limits that words and pictures of the screen go by; the core's rules have them, with sources. */
export interface Limits {
  /** Share of gas in what the pump draws, above which it draws air. */
  drawsAir: number;
  /** The same, above which it runs dry. */
  runsDry: number;
  /** Share of the usual gallery pressure under which it dips. */
  dipShare: number;
  /** Oil in the crank's sweep up to which it is a splash [L]. */
  splashL: number;
  /** The mouth's gap to the floor, in words, and who says so. */
  mouthGap: string;
}

function ruleOf(rules: readonly Rule[], key: string): Rule {
  const found = rules.find((rule) => rule.key === key);
  if (!found) throw new Error(`the server knows no rule ${key}`);
  return found;
}

const most = (rules: readonly Rule[], key: string): number => ruleOf(rules, key).high ?? Infinity;

export function limitsOf(rules: readonly Rule[]): Limits {
  const gap = ruleOf(rules, "mouth_gap");
  return {
    drawsAir: most(rules, "draws_air"),
    runsDry: most(rules, "runs_dry"),
    dipShare: ruleOf(rules, "pressure_dip").low ?? 0,
    splashL: most(rules, "crank_splash") * 1e3,
    mouthGap: `${gap.words}: ${gap.source}`,
  };
}
