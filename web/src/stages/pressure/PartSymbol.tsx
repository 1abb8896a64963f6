import { type ReactElement } from "react";
import type { Kind } from "../../document/circuit/circuit";
import { pathOf } from "../../drawing/geometry";
import { box, Matrix, metal, Vessel } from "../../drawing/OilParts";
import { roomOf } from "./plan";

/** What a symbol shows of its part's state. */
export interface Shown {
  kind: Kind;
  /** Of its room that is gas. */
  gas: number;
  /** Oil goes through it forwards. */
  isOpen: boolean;
}

function Pleated({ at, gas }: { at: number; gas: number }): ReactElement {
  return (
    <>
      <Vessel x={at - 18} y={-22} width={36} height={50} gas={gas} />
      <path
        d={[0, 1, 2, 3].map((n) => `M${at - 12 + n * 8} -14V20`).join("")}
        stroke="var(--ink)"
        strokeWidth="1.1"
      />
      <path d={`M${at - 18} -22h36v-5h-36z`} fill="var(--metal)" stroke="var(--ink)" />
    </>
  );
}

const bare = { fill: "none", stroke: "var(--ink)", strokeWidth: 1.5 };

const Plate = (): ReactElement => <rect x={-7} y={-18} width={14} height={36} {...metal} />;

const TakeOff = (): ReactElement => (
  <>
    <rect x={-17} y={-18} width={34} height={36} {...metal} />
    <circle r="11" fill="var(--panel)" stroke="var(--ink)" />
    <path d="M-7 0H7M0 -8V8M3 -4 7 0 3 4" {...bare} strokeWidth={1.25} />
  </>
);

const CheckBall = ({ isOpen }: Shown): ReactElement => (
  <>
    <path d="M-13 -8-7 -14H7L13 -8V8L7 14H-7L-13 8z" {...metal} fill="var(--panel)" />
    <path d="M-8 -9v18" {...bare} />
    <circle cx={isOpen ? 3 : -3} r="5" fill="var(--metal-3)" stroke="var(--ink)" />
  </>
);

const Handle = ({ isOpen }: Shown): ReactElement => (
  <>
    <circle r="10" {...metal} fill="var(--panel)" />
    <path d={isOpen ? "M-10 0H10" : "M0 -10V10"} stroke="var(--ink)" strokeWidth="3" />
    <path d={isOpen ? "M0 -10v-8M-12 -18H12" : "M0 -10v-8M0 -26v10"} {...bare} strokeWidth={2} />
  </>
);

const Spring = ({ isOpen }: Shown): ReactElement => (
  <>
    <rect x={-10} y={-24} width={20} height={42} {...metal} fill="var(--panel)" />
    <path d="M-6 -20 6 -16-6 -12 6 -8-6 -4" {...bare} strokeWidth={1.25} />
    <circle cy={isOpen ? 2 : 8} r="5.5" fill="var(--metal-3)" stroke="var(--ink)" />
  </>
);

const Pinch = (): ReactElement => (
  <path d="M-10 -9V9L-2 2H2L10 9V-9L2 -2H-2z" {...metal} fill="var(--metal-3)" />
);

const Dial = (): ReactElement => (
  <>
    <circle cy={-19} r="10" {...metal} fill="var(--panel)" />
    <path d="M0 -9V0M0 -19l5 -5" {...bare} />
  </>
);

const Joint = (): ReactElement => <circle r="5" fill="var(--ink)" />;

/** A part of the line by its kind; null: it is drawn elsewhere, or nowhere on this sheet. */
const SYMBOLS: Record<Kind, ((shown: Shown) => ReactElement) | null> = {
  pan_region: null,
  pickup: null,
  pressure_stage: null,
  relief: Spring,
  regulator: Spring,
  sandwich_plate: TakeOff,
  take_off_plate: Plate,
  filter: ({ gas }) => <Pleated at={0} gas={gas} />,
  remote_filter: ({ gas }) => (
    <>
      <path d="M-30 -27h60v-7h-60z" fill="var(--metal)" stroke="var(--ink)" />
      <Pleated at={0} gas={gas} />
    </>
  ),
  thermostat: TakeOff,
  cooler: ({ kind, gas }) => <Matrix gas={gas} half={roomOf(kind) / 2 - 6} wavy />,
  plate_cooler: ({ kind, gas }) => <Matrix gas={gas} half={roomOf(kind) / 2 - 6} wavy={false} />,
  water_source: null,
  accumulator: null,
  check_valve: CheckBall,
  shut_off_valve: Handle,
  restrictor: Pinch,
  tee: Joint,
  sender_tee: Dial,
  bulkhead: Plate,
  drain_cock: null,
  cover: Joint,
  gallery: null,
  jets: null,
  head: null,
  timing_chest: null,
  turbo: null,
  crankcase: null,
  scavenge_stage: null,
  separator: null,
  tank: null,
  catch_can: null,
  breather: null,
};

/** A part of the line, its middle at a place. */
export function PartSymbol({
  x,
  y,
  scale,
  twin,
  ...shown
}: Shown & { x: number; y: number; scale: number; twin: boolean }): ReactElement | null {
  const Symbol = SYMBOLS[shown.kind];
  if (!Symbol) return null;
  if (twin && shown.kind === "remote_filter")
    return (
      <g transform={`translate(${x} ${y}) scale(${scale})`} data-part={shown.kind}>
        <path d="M-38 -27h76v-7h-76z" fill="var(--metal)" stroke="var(--ink)" />
        <Pleated at={-19} gas={shown.gas} />
        <Pleated at={19} gas={shown.gas} />
      </g>
    );
  return (
    <g transform={`translate(${x} ${y}) scale(${scale})`} data-part={shown.kind}>
      <Symbol {...shown} />
    </g>
  );
}

/** A bottle: oil, piston, gas, each with its true share. */
export function BottleSymbol({
  x,
  y,
  width,
  height,
  share,
}: {
  x: number;
  y: number;
  width: number;
  height: number;
  /** Of its volume that is oil. */
  share: number;
}): ReactElement {
  const inside = width - 14;
  const oil = Math.min(1, Math.max(0, share)) * (inside - 8);
  return (
    <g transform={`translate(${x} ${y})`} data-part="accumulator" data-share={share.toFixed(2)}>
      <rect x={7} width={inside} height={height} fill="var(--panel)" />
      <rect x={7} width={oil} height={height} fill="var(--oil)" />
      <rect x={7 + oil} width={8} height={height} {...metal} fill="var(--metal)" />
      <path d={pathOf(box(7, 0, inside, height))} {...bare} strokeWidth={1.75} />
      <rect y={-4} width={7} height={height + 8} {...metal} fill="var(--metal)" />
      <rect x={width - 7} y={-4} width={7} height={height + 8} {...metal} fill="var(--metal)" />
    </g>
  );
}
