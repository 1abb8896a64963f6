import { useState, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import { useKeepWithGrip } from "../../api/logs";
import { Button } from "../../parts/Button";

/** Keeps a lap as it would be with a tenth more grip, or as much as is said. */
export function BetterTyres({
  lapId,
  name,
  onKept,
}: {
  lapId: number;
  name: string;
  onKept: (lapId: number) => void;
}): ReactElement {
  const keep = useKeepWithGrip();
  const [factor, setFactor] = useState("1.1");
  const [open, setOpen] = useState(false);
  if (!open)
    return (
      <Button look="bare" className="underline" onClick={() => setOpen(true)}>
        better tyres
      </Button>
    );
  return (
    <form
      className="flex flex-wrap items-center gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        keep.mutate(
          { lapId, factor: Number(factor.replace(",", ".")) },
          {
            onSuccess: (lap) => {
              setOpen(false);
              onKept(lap.id);
            },
          },
        );
      }}
    >
      <label className="font-figure text-[14px]">
        grip x{" "}
        <input
          value={factor}
          aria-label={`Grip of ${name}, times`}
          aria-invalid={keep.isError}
          onChange={(event) => setFactor(event.target.value)}
          className="h-8 w-12 border border-ink bg-panel px-1"
        />
      </label>
      <Button type="submit" disabled={keep.isPending}>
        Keep
      </Button>
      {keep.error && (
        <span role="alert" className="text-[13px] text-bad">
          {wordsOf(keep.error)}
        </span>
      )}
    </form>
  );
}
