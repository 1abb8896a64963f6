import type { ReactElement } from "react";
import type { BuildDocument } from "../api/queries";
import { Choice } from "../parts/Choice";
import { FigureGroup } from "../parts/FigureGroup";
import type { FitKind, PanFitKind } from "./circuit/fits";

type Rules = NonNullable<BuildDocument["car"]["class_rules"]>;
/** Acts that a rule book speaks of: what fits something, and another shape of the pan. */
export type Ruled = FitKind | PanFitKind | "spacer" | "deepen" | "sump_preset";
type Ruling = NonNullable<Rules[string]>;

/** What each kind of act is called in a rule book. */
export const RULED: Record<Ruled, string> = {
  spacer: "Spacer under the pan",
  deepen: "Deeper sump",
  sump_preset: "Sump moved",
  kick_out: "Side box on the sump",
  fit_gates: "Plates with gates",
  fit_side_plates: "Plates beside the pickup",
  fit_level_plate: "Level plate",
  fit_tray: "Windage tray",
  fit_scraper: "Crank scraper",
  brace_pickup: "Pickup brace",
  go_dry: "Dry sump",
  move_pickup: "Pickup moved",
  fit_accumulator: "Accumulator",
  fit_cooler: "Oil cooler",
  fit_sandwich_plate: "Sandwich plate",
  move_filter: "Filter moved",
  second_filter: "Second filter",
  fit_regulator: "External regulator",
  direct_feed: "Gallery fed directly",
  fit_jets: "Piston jets",
  fit_cover: "Cover with a tapping",
  feed_turbo: "Turbo",
  drain_turbo: "Turbo drained otherwise",
  outside_return: "Outside return line",
  fit_catch_can: "Catch can",
  fit_breather: "More breathers",
};

const RULINGS: Record<Ruling | "unsaid", string> = {
  unsaid: "not said",
  allowed: "allowed",
  not_allowed: "not allowed",
};

/** What the class that the car runs in allows: the organiser's rule book decides, not this page. */
export function ClassRules({
  rules,
  onRule,
}: {
  rules: Rules | undefined;
  onRule: (kind: Ruled, ruling: Ruling | null) => void;
}): ReactElement {
  const said = Object.values(rules ?? {}).filter((ruling) => ruling !== null).length;
  return (
    <FigureGroup title="Class rules">
      <details>
        <summary className="py-1.5 text-[14px]">
          {said === 0 ? "Nothing said yet" : `${said} of ${Object.keys(RULED).length} said`}
        </summary>
        <p className="py-1 text-[13px] text-ink-2">
          As your class&apos;s rule book has it; the organiser and the scrutineer decide.
        </p>
        {(Object.keys(RULED) as Ruled[]).map((kind) => (
          <Choice
            key={kind}
            label={RULED[kind]}
            value={rules?.[kind] ?? "unsaid"}
            choices={RULINGS}
            onChoose={(ruling) => onRule(kind, ruling === "unsaid" ? null : ruling)}
          />
        ))}
      </details>
    </FigureGroup>
  );
}
