import type { ReactElement } from "react";
import type { PressureStage } from "../../api/pressure";
import { Guesses } from "../../document/circuit/Guesses";
import { PressureDips } from "../../document/PressureDips";

/** The dips of the gallery over the lap, and what of the circuit is guessed. */
export function DipsOfPressure({
  stage,
  holds,
  time,
  onTime,
}: {
  stage: PressureStage;
  /** Without a dip it may be said to hold: it is the build's own run. */
  holds: boolean;
  time: number;
  onTime: (time: number) => void;
}): ReactElement {
  return (
    <>
      <PressureDips pressure={stage.pressure} time={time} onTime={onTime} holds={holds} />
      <div className="px-4 pt-2">
        <Guesses />
      </div>
    </>
  );
}
