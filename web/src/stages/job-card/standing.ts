import type { Card, Entry, Step, StepState } from "../../api/job";
import type { Waiting } from "../../offline/queue";

/** A step as this device knows it: with what was entered here and is not sent yet. */
export interface StepNow extends Step {
  /** What was entered of it waits to be sent. */
  isWaiting: boolean;
}

const HOUR = 3_600_000;
const DAY = 24 * HOUR;

/** When the wait is over that a step begins once it is done; null: it has none. */
function overAt(step: Step, at: string): string | null {
  const long = step.wait_h * HOUR + step.wait_days * DAY;
  return long > 0 ? new Date(Date.parse(at) + long).toISOString() : null;
}

const without = (tight: Step["tight"], pass: number, bolt: number): Step["tight"] =>
  tight.filter(([p, b]) => p !== pass || b !== bolt);

/** A step after one more entry on it. */
function after(step: StepNow, { entry, at, by }: Waiting<Entry>): StepNow {
  const now: StepNow = { ...step, isWaiting: true };
  switch (entry.kind) {
    case "ticked":
      return { ...now, state: "done", at, by, wait_over: overAt(step, at), is_void: false };
    case "unticked":
      return { ...now, state: "later", at: null, by: "", wait_over: null, reason: "" };
    case "bolt_tight": {
      const pass = entry.in_pass;
      return { ...now, tight: [...without(step.tight, pass, entry.bolt), [pass, entry.bolt]] };
    }
    case "bolt_loose":
      return { ...now, tight: without(step.tight, entry.in_pass, entry.bolt) };
    case "wait_over":
      return { ...now, wait_over: at, reason: entry.why };
    case "overridden":
      return { ...now, state: "overridden", at, by, reason: entry.why };
    case "noted":
      return {
        ...now,
        notes: [...step.notes, { words: entry.words, photos: entry.photos, by, at }],
      };
    default:
      return now;
  }
}

const isPassed = (state: StepState): boolean => state === "done" || state === "overridden";

/** All that must come before a step, however far. */
export function beforeIt(steps: readonly Step[], id: string): Set<string> {
  const needs = new Map(steps.map((step) => [step.id, step.needs]));
  const found = new Set<string>();
  const look = [...(needs.get(id) ?? [])];
  for (let next = look.pop(); next !== undefined; next = look.pop())
    if (!found.has(next)) {
      found.add(next);
      look.push(...(needs.get(next) ?? []));
    }
  return found;
}

/** How a step stands that is not passed, by what stands before it. */
function toDo(step: StepNow, steps: readonly StepNow[], now: number): StepNow {
  const before = beforeIt(steps, step.id);
  const gates = steps.filter(
    ({ id, is_gate, state }) => is_gate && before.has(id) && !isPassed(state),
  );
  if (gates.length > 0) {
    const state = gates.some(({ id }) => id.startsWith("look_again")) ? "stopped" : "blocked";
    return { ...step, state, gates: gates.map(({ words }) => words), until: null };
  }
  const needed = steps.filter(({ id }) => step.needs.includes(id));
  const ends = needed.flatMap(({ wait_over: end }) => (end === null ? [] : [Date.parse(end)]));
  const until = ends.length > 0 ? Math.max(...ends) : 0;
  if (until > now)
    return { ...step, state: "shut", gates: [], until: new Date(until).toISOString() };
  const isReady = needed.every(({ state }) => isPassed(state));
  return { ...step, state: isReady ? "ready" : "later", gates: [], until: null };
}

/** The card's steps at a moment, with what waits on this device to be sent. */
export function stepsNow(card: Card, waiting: readonly Waiting<Entry>[], now: number): StepNow[] {
  let steps: StepNow[] = card.steps.map((step) => ({ ...step, isWaiting: false }));
  for (const row of waiting) {
    if (row.refused !== null || !("step" in row.entry)) continue;
    const { step: id } = row.entry;
    steps = steps.map((step) => (step.id === id ? after(step, row) : step));
  }
  return steps.map((step) => (isPassed(step.state) ? step : toDo(step, steps, now)));
}

/** The step to show first: the earliest that can be done, else the earliest that is not done. */
export function nextStep(steps: readonly StepNow[]): StepNow | undefined {
  const left = steps.filter(({ state }) => !isPassed(state));
  return left.find(({ state }) => state === "ready") ?? left[0];
}

export const countDone = (steps: readonly StepNow[]): number =>
  steps.filter(({ state }) => isPassed(state)).length;

/** Waits that run at a moment: the step that began each, soonest over first. */
export const waitsNow = (steps: readonly StepNow[], now: number): StepNow[] =>
  steps
    .filter(
      ({ wait_over: over, state }) => over !== null && isPassed(state) && Date.parse(over) > now,
    )
    .sort((one, other) => Date.parse(one.wait_over ?? "") - Date.parse(other.wait_over ?? ""));
