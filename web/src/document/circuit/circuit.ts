import type { BuildDocument } from "../../api/queries";

export type Circuit = BuildDocument["circuit"];
export type Component = Circuit["components"][number];
export type Kind = Component["kind"];
export type Run = Circuit["runs"][number];
export type LineKind = Run["line"]["kind"];
export type OfKind<K extends Kind> = Extract<Component, { kind: K }>;

const isOf =
  <K extends Kind>(kind: K) =>
  (part: Component): part is OfKind<K> =>
    part.kind === kind;

export const ofKind = <K extends Kind>(circuit: Circuit, kind: K): OfKind<K>[] =>
  circuit.components.filter(isOf(kind));

/** Whether the engine's oil is in a tank. */
export const isDrySump = (circuit: Circuit): boolean => ofKind(circuit, "tank").length > 0;

/** The first pressure stage: the server takes no build without one. */
export function pumpOf({ circuit }: BuildDocument): OfKind<"pressure_stage"> {
  const [pump] = ofKind(circuit, "pressure_stage");
  if (!pump) throw new Error("a build has a pressure stage");
  return pump;
}

export const reliefOf = ({ circuit }: BuildDocument): OfKind<"relief"> | undefined =>
  ofKind(circuit, "relief")[0];

/** The run into the pump's inlet: the pickup's tube, its joint at the end. */
export const suctionOf = (document: BuildDocument): Run | undefined =>
  document.circuit.runs.find(
    ({ end }) => end.component === pumpOf(document).id && end.port === "inlet",
  );

/** A document with one component changed; what is edited is a template's no more. */
export const withComponent = (
  document: BuildDocument,
  id: string,
  change: object,
): BuildDocument => ({
  ...document,
  circuit: {
    ...document.circuit,
    components: document.circuit.components.map((part) =>
      part.id === id ? { ...part, assumed: false, ...change } : part,
    ),
  },
});

/** The same with one run changed. */
export const withRun = (
  document: BuildDocument,
  id: string,
  change: Partial<Run>,
): BuildDocument => ({
  ...document,
  circuit: {
    ...document.circuit,
    runs: document.circuit.runs.map((run) =>
      run.id === id ? { ...run, assumed: false, ...change } : run,
    ),
  },
});

/** Whether the oil away from the pan follows from what components say that they hold. */
export const isToldApart = ({ circuit }: BuildDocument): boolean =>
  circuit.components.some(({ holds_l: held }) => held != null);
