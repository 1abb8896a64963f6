import type { ReactElement } from "react";
import { useBuildView } from "../document/BuildContext";
import { Button } from "../parts/Button";
import { Mark } from "../parts/Mark";
import { HOME, stageOf } from "./registry";

/** An address that no stage has. */
export function NoSuchStage(): ReactElement {
  const { go } = useBuildView();
  return (
    <section className="max-w-xl p-6">
      <h1 className="mb-5 flex items-center gap-3 font-figure text-[22px] font-semibold">
        <Mark state="nothing" size={22} />
        There is no such stage
      </h1>
      <Button look="main" onClick={() => go(HOME)}>
        Go to {stageOf(HOME)?.name}
      </Button>
    </section>
  );
}
