import type { ReactElement } from "react";
import type { PressureStage } from "../../api/pressure";
import { Guesses } from "../../document/circuit/Guesses";
import { PressureDips } from "../../document/PressureDips";

/** The dips of the gallery over the lap, and what of the circuit is guessed. */
export function DipsOfPressure({
  stage,
  time,
  onTime,
}: {
  stage: PressureStage;
  time: number;
  onTime: (time: number) => void;
}): ReactElement {
  return (
    <>
      <PressureDips
        pressure={stage.pressure}
        time={time}
        onTime={onTime}
        holds={stage.basis.kind === "own"}
      />
      <div className="px-4 pt-2">
        <Guesses />
      </div>
    </>
  );
}
