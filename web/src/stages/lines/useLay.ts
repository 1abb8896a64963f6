import { useState } from "react";
import { Refusal, wordsOf } from "../../api/client";
import type { Act } from "../../api/queries";
import type { PortGiven } from "../../document/circuit/PortPlace";
import { useBuildView } from "../../document/BuildContext";
import { useSettings } from "../../parts/settings";

type Given = Partial<Omit<Extract<Act, { kind: "lay_line" }>, "kind" | "run" | "typed">>;

export interface Lay {
  /** What the last refused change was refused for. */
  fault: string | null;
  /** Changes a line at once; its fault is kept here. */
  lay: (given: Given) => void;
  /** Changes one figure as it was typed; the fault belongs to the caller. */
  type: (given: Given) => Promise<unknown>;
  /** Puts a part into the line; the fault belongs to the caller. */
  putIn: (act: Act) => Promise<unknown>;
  port: (component: string, port: string, given: PortGiven) => void;
  typePort: (component: string, port: string, given: PortGiven) => Promise<unknown>;
}

/** Acts on a line and on the ports at its ends. */
export function useLay(run: string): Lay {
  const { edit } = useBuildView();
  const { system } = useSettings();
  const [fault, setFault] = useState<string | null>(null);
  const send = async (act: Act): Promise<unknown> => {
    setFault(null);
    try {
      return await edit.mutateAsync({ kind: "act", act, system });
    } finally {
      edit.reset(); // said here, not again above
    }
  };
  const attempt = (act: Act): void => {
    send(act).catch((error: unknown) => {
      if (error instanceof Refusal && error.keptState !== null) return; // said above
      setFault(wordsOf(error));
    });
  };
  const ofLine = (given: Given): Act => ({ kind: "lay_line", run, ...given });
  const ofPort = (component: string, port: string, given: PortGiven): Act => ({
    kind: "set_port",
    component,
    port,
    ...given,
  });
  return {
    fault,
    lay: (given) => attempt(ofLine(given)),
    type: (given) => send(ofLine(given)),
    putIn: (act) => send({ ...act, run } as Act),
    port: (component, port, given) => attempt(ofPort(component, port, given)),
    typePort: (component, port, given) => send(ofPort(component, port, given)),
  };
}
