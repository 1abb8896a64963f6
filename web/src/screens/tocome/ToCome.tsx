import type { ReactElement } from "react";
import { Button } from "../../parts/Button";
import { Mark } from "../../parts/Mark";

/** A stage that is not built yet: it says so, and what serves until then. */
export function ToCome({
  name,
  words,
  onSlosh,
}: {
  name: string;
  words: string;
  onSlosh: () => void;
}): ReactElement {
  return (
    <section className="max-w-xl p-6">
      <h1 className="flex items-center gap-3 font-figure text-[22px] font-semibold">
        <Mark state="nothing" size={22} /> {name} is to come
      </h1>
      <p className="mt-3 mb-5">{words}</p>
      <Button look="main" onClick={onSlosh}>
        Go to Slosh
      </Button>
    </section>
  );
}
