import { momentWords } from "../../parts/days";
import { useEffect, useState, type ReactElement } from "react";
import { Link } from "react-router";
import { wordsOf, type Schemas } from "../../api/client";
import { useDeleteBuild, useShelf, type ShelfRow } from "../../api/queries";
import { exportAddress } from "../../api/records";
import { isUnderWay, useKnown, useRuns, type Run } from "../../api/runs";
import { Button } from "../../parts/Button";
import { Mark } from "../../parts/Mark";
import { Waiting } from "../../parts/Notice";
import { Bar } from "../../parts/Progress";
import { VERDICT_MARKS, yours } from "../../parts/verdict";
import { InUnits } from "../../parts/InUnits";
import { NewBuild } from "./NewBuild";
import { Thumbnail } from "./Thumbnail";

type Known = Schemas["KnownOut"];

/** How far the moving oil of a build is, while it is being worked out. */
function UnderWay({ run }: { run: Run }): ReactElement {
  const share = run.lasts_s > 0 ? run.reached_s / run.lasts_s : 0;
  const how =
    run.status === "waiting" ? "waits for its turn" : `${(100 * share).toFixed(0)} % worked out`;
  return (
    <span className="flex items-center gap-2 text-[13px] text-ink-2" role="status">
      <Bar share={share} words={`Moving oil of ${run.build_name}`} className="w-24" />
      Moving oil: {how}
    </span>
  );
}

function Row({
  row,
  known,
  run,
}: {
  row: ShelfRow;
  known: Known | undefined;
  /** Its run under way. */
  run: Run | undefined;
}): ReactElement {
  const [asking, setAsking] = useState(false);
  const remove = useDeleteBuild();
  const worst = known?.over[0];
  const verdict = yours(worst?.verdict ?? row.verdict, row.invented);
  const lap = worst?.lap_name ?? row.lap_name;
  const model = worst?.model ?? (lap ? "Settled oil" : null);
  return (
    <li className="flex flex-wrap items-center gap-x-6 gap-y-2 border-b border-hair py-3">
      <Thumbnail row={row} />
      <div className="min-w-[220px] flex-1">
        <Link
          to={`/builds/${row.id}/slosh`}
          className="font-figure text-[20px] font-semibold underline-offset-4 hover:underline"
        >
          {row.name}
        </Link>
        <p className="text-[14px] text-ink-2">
          {lap ?? "no lap yet"}
          {row.laps > 1 && `, the worst of ${row.laps} laps`} · changed{" "}
          {momentWords(row.changed_at)}
        </p>
      </div>
      <p className="flex min-w-[240px] flex-[1.4] items-start gap-3 text-[15px]">
        <Mark state={VERDICT_MARKS[verdict.state]} size={20} />
        <span>
          <strong className="font-semibold">{verdict.headline}.</strong>{" "}
          <InUnits words={verdict.sentence} />
          {model && <span className="block text-[13px] text-ink-2">{model}</span>}
          {run && <UnderWay run={run} />}
        </span>
      </p>
      {asking ? (
        <span className="flex items-center gap-2">
          <Button look="bad" disabled={remove.isPending} onClick={() => remove.mutate(row.id)}>
            Delete for good
          </Button>
          <Button onClick={() => setAsking(false)}>Keep it</Button>
        </span>
      ) : (
        <span className="flex items-center">
          <Button
            look="bare"
            aria-label={`Save ${row.name} as a file`}
            onClick={() => window.location.assign(exportAddress(row))}
          >
            Save
          </Button>
          <Button look="bare" aria-label={`Delete ${row.name}`} onClick={() => setAsking(true)}>
            Delete
          </Button>
        </span>
      )}
      {remove.error && (
        <p role="alert" className="w-full text-[14px] text-bad">
          {wordsOf(remove.error)}
        </p>
      )}
    </li>
  );
}

/** The builds of the workshop, and starting a new one. */
export function Shelf({
  onOpen,
}: {
  onOpen: (id: number, stage: "car" | "slosh") => void;
}): ReactElement {
  const shelf = useShelf();
  const known = useKnown();
  const runs = useRuns();
  const underWay = runs.data?.runs.filter((run) => run.is_current && isUnderWay(run)) ?? [];
  const { refetch } = known;
  useEffect(() => void refetch(), [underWay.length, refetch]); // another one may have ended
  return (
    <div className="mx-auto grid max-w-[1280px] gap-x-12 px-6 py-6 lg:grid-cols-[1fr_340px]">
      <section aria-labelledby="builds">
        <h1 id="builds" className="font-figure text-[22px] font-semibold">
          Builds
        </h1>
        {!shelf.data && (
          <Waiting
            error={shelf.error ? wordsOf(shelf.error) : null}
            what="the builds"
            onRetry={() => void shelf.refetch()}
          />
        )}
        {shelf.data?.length === 0 && (
          <p className="mt-3 max-w-md">
            No builds yet. Begin from the layout nearest to your car, then put in your own tape
            measurements.
          </p>
        )}
        <ul className="mt-2 border-t border-hair empty:border-0">
          {shelf.data?.map((row) => (
            <Row
              key={row.id}
              row={row}
              known={known.data?.find(({ build_id: id }) => id === row.id)}
              run={underWay.find(({ build_id: id }) => id === row.id)}
            />
          ))}
        </ul>
      </section>
      <NewBuild onOpen={onOpen} />
    </div>
  );
}
