import type { Card, Flange, JobStage, Step } from "../api/job";

/** A step as the server sends it. */
export const stepOf = (id: string, given: Partial<Step> = {}): Step => ({
  id,
  part: id.split(":")[1] ?? "",
  words: `Do ${id}`,
  phase: "Off, cleaned, looked over",
  why: "Because it comes first.",
  cautions: [],
  tools: "",
  hours: 0.25,
  wait_h: 0,
  wait_days: 0,
  needs: [],
  bought: [],
  torque: null,
  has_bolts: false,
  is_gate: false,
  photo: false,
  source: "common practice, no published source",
  state: "ready",
  until: null,
  gates: [],
  is_void: false,
  is_new: false,
  is_critical: false,
  by: "",
  at: null,
  reason: "",
  wait_over: null,
  tight: [],
  notes: [],
  begins: "2026-07-13T09:00:00",
  ...given,
});

/** Six bolts in two rows, tightened from the middle out. */
export const FLANGE: Flange = {
  outline_mm: [
    [0, -50],
    [200, -50],
    [200, 50],
    [0, 50],
  ],
  bolts_mm: [
    [0, -50],
    [100, -50],
    [200, -50],
    [200, 50],
    [100, 50],
    [0, 50],
  ],
  pattern: [1, 4, 0, 3, 5, 2],
  is_own: false,
  passes: 1,
  zones_mm: [],
};

export const cardOf = (steps: Step[], given: Partial<Card> = {}): Card => ({
  steps,
  opens: true,
  ignores_in_place: false,
  done: steps.filter(({ state }) => state === "done").length,
  next: steps[0]?.id ?? null,
  flange: null,
  bad: [],
  plan: {
    begins: "2026-07-13T09:00:00",
    oil_in: "2026-07-14T10:00:00",
    ends: "2026-07-14T13:00:00",
    hands_h: 8.5,
    waits_h: 1.65,
    idle_h: 0.5,
    late: [],
  },
  ...given,
});

/** A job that is begun: stands, drain with its wait, pan off, bolts. */
export const STEPS: Step[] = [
  stepOf("stands", { words: "Car on its stands", is_gate: true, phase: "Before anything" }),
  stepOf("drain", { words: "Pull the plug", wait_h: 0.65, needs: ["stands"], state: "blocked" }),
  stepOf("pan_off", { words: "Pan off", needs: ["drain"], state: "blocked" }),
  stepOf("torque_pan", {
    words: "Torque the pan bolts, crosswise",
    needs: ["pan_off"],
    state: "blocked",
    has_bolts: true,
    torque: {
      newton_metres: 11.976,
      lbf_in: 106,
      lbf_ft: 8.83,
      words: "12.0 N·m, 106 lbf·in, 8.8 lbf·ft",
      source: "common practice",
      left_handed: false,
      is_own: false,
    },
  }),
];

export const JOB: JobStage = {
  state: 3,
  as_is: 1,
  number: 1,
  begun_by: "MK",
  begun_at: "2026-07-13T08:00:00Z",
  said: {
    access: [],
    extras: [],
    in_cabin: [],
    hours_a_day: 6,
    passes: 1,
    sealing: "gasket",
    sump_in_place: false,
    torque_nm: {},
    weekends: false,
  },
  card: cardOf(STEPS, { flange: FLANGE }),
  parts: [
    { id: "pan", name: "the pan and its joint", kind: "pan", renewable: true },
    { id: "b8", name: "drain plug", kind: "drain_plug", renewable: false },
  ],
  wanted: [],
  surplus: [],
  over: [],
  choose: [],
  refused: [],
};
