import type { ReactElement } from "react";
import { useBuildView } from "../document/BuildContext";
import type { Stage } from "../document/stage";
import { Button } from "../parts/Button";
import { Mark } from "../parts/Mark";
import { HOME, stageOf } from "./registry";

/** A stage that is not built yet: it says so, and what serves until then. */
export function ToCome({ stage }: { stage: Stage | undefined }): ReactElement {
  const { go } = useBuildView();
  return (
    <section className="max-w-xl p-6">
      <h1 className="flex items-center gap-3 font-figure text-[22px] font-semibold">
        <Mark state="nothing" size={22} />
        {stage ? `${stage.name}: to come` : "There is no such stage"}
      </h1>
      <p className="mt-3 mb-5">{stage?.words}</p>
      <Button look="main" onClick={() => go(HOME)}>
        Go to {stageOf(HOME)?.name}
      </Button>
    </section>
  );
}
