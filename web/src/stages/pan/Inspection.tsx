import { useState, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import { photoAddress, useAddPhoto } from "../../api/photos";
import type { RecordOf, RecordRow } from "../../api/records";
import { TakenBy } from "../../document/TakenBy";
import type { Keeping } from "../../document/useRecords";
import { useSettings } from "../../parts/settings";
import { Button } from "../../parts/Button";
import { Dialog } from "../../parts/Dialog";
import { FileButton } from "../../parts/FileButton";
import { Mark } from "../../parts/Mark";
import { lengthAs, scaleOf } from "../../parts/units";

type Row = RecordOf<"inspection">;

const FOUND = [
  ["not_looked", "not looked at"],
  ["sound", "sound"],
  ["watch", "to be watched"],
  ["replace", "mend or replace"],
] as const;
const STATES = { not_looked: "caution", sound: "good", watch: "caution", replace: "bad" } as const;

/** How far the rail is off flat, with a feeler gauge on a plate. */
function OffFlat({ row, onPut }: { row: Row; onPut: (row: Row) => void }): ReactElement {
  const { system, units } = useSettings();
  const scale = scaleOf(units, "x_mm", system);
  const shown =
    row.off_flat_mm == null ? "" : (row.off_flat_mm * scale).toFixed(system === "metric" ? 2 : 3);
  return (
    <label className="flex items-center gap-2 text-[13px] text-ink-2">
      off flat by
      <input
        key={shown}
        defaultValue={shown}
        inputMode="decimal"
        className="h-7 w-16 border-b border-dotted border-ink bg-transparent font-figure text-[15px] text-ink"
        onBlur={(event) => {
          const text = event.target.value.trim().replace(",", ".");
          const value = text === "" ? null : Number(text) / scale;
          if (value === null ? row.off_flat_mm != null : value >= 0 && text !== shown)
            onPut({ ...row, off_flat_mm: value });
        }}
      />
      {lengthAs(units, system, 0).unit}
    </label>
  );
}

function Item({
  row,
  taken,
  buildId,
  onPut,
}: {
  row: Row;
  /** The record that it is of, once there is one. */
  taken: RecordRow | undefined;
  buildId: number;
  onPut: (row: Row) => void;
}): ReactElement {
  const add = useAddPhoto(buildId);
  const [shown, setShown] = useState<string | null>(null);
  return (
    <li className="border-b border-hair py-2">
      <div className="flex items-center gap-2">
        <Mark state={STATES[row.found]} size={16} />
        <span className="min-w-0 flex-1 text-[14px] font-medium">{row.item}</span>
        <select
          aria-label={`Found: ${row.item}`}
          value={row.found}
          onChange={(event) => onPut({ ...row, found: event.target.value as Row["found"] })}
          className="h-9 border border-ink bg-panel px-1 text-[14px]"
        >
          {FOUND.map(([key, words]) => (
            <option key={key} value={key}>
              {words}
            </option>
          ))}
        </select>
      </div>
      <div className="mt-1 flex flex-wrap items-center gap-2 pl-6">
        {/flat/i.test(row.item) && <OffFlat row={row} onPut={onPut} />}
        <input
          key={row.note}
          defaultValue={row.note}
          placeholder="note"
          aria-label={`Note on ${row.item}`}
          maxLength={2000}
          className="h-7 min-w-0 flex-1 border-b border-dotted border-ink bg-transparent text-[14px]"
          onBlur={(event) => {
            if (event.target.value !== row.note) onPut({ ...row, note: event.target.value });
          }}
        />
        {row.photos.length < 12 && (
          <FileButton
            accept="image/jpeg,image/png,image/webp"
            label={`Photo of ${row.item}`}
            disabled={add.isPending}
            onFile={(file) =>
              add.mutate(file, {
                onSuccess: ({ token }) => onPut({ ...row, photos: [...row.photos, token] }),
              })
            }
          >
            {add.isPending ? "Keeping…" : "Photo"}
          </FileButton>
        )}
      </div>
      {add.error && (
        <p role="alert" className="pl-6 text-[13px] text-bad">
          {wordsOf(add.error)}
        </p>
      )}
      {row.photos.length > 0 && (
        <ul className="mt-1 flex flex-wrap gap-2 pl-6">
          {row.photos.map((token, index) => (
            <li key={token}>
              <button type="button" onClick={() => setShown(token)}>
                <img
                  src={photoAddress(buildId, token)}
                  alt={`Photo ${index + 1}: ${row.item}`}
                  className="h-14 w-20 border border-ink object-cover"
                />
              </button>
            </li>
          ))}
        </ul>
      )}
      {taken && (
        <div className="pl-6">
          <TakenBy row={taken} />
        </div>
      )}
      {shown && (
        <Dialog title={row.item} wide onClose={() => setShown(null)}>
          <img
            src={photoAddress(buildId, shown)}
            alt={row.item}
            className="max-h-[70vh] max-w-full"
          />
          <div className="p-3">
            <Button
              look="bad"
              onClick={() => {
                onPut({ ...row, photos: row.photos.filter((each) => each !== shown) });
                setShown(null);
              }}
            >
              Take this photo out
            </Button>
          </div>
        </Dialog>
      )}
    </li>
  );
}

/** What there is to look at: what the trade names, and what was looked at besides. */
function itemsOf(
  named: readonly string[],
  kept: Keeping<"inspection">,
): Map<string, number | null> {
  const items = new Map<string, number | null>(named.map((item) => [item, null]));
  for (const { id, record } of kept.rows ?? []) items.set(record.item, id);
  return items;
}

/** Pan and pickup looked over as they come, new parts too, before anything is assembled. */
export function Inspection({
  buildId,
  kept,
}: {
  buildId: number;
  kept: Keeping<"inspection">;
}): ReactElement {
  const { inspectionItems } = useSettings();
  const [begun, setBegun] = useState(false);
  const rows = new Map((kept.rows ?? []).map((row) => [row.id, row]));
  const items = [...itemsOf(inspectionItems, kept)].map(([item, id]) => {
    const row = id === null ? undefined : rows.get(id);
    const bare: Row = { kind: "inspection", item, found: "not_looked", note: "", photos: [] };
    return { row, record: row?.record ?? bare };
  });
  const left = items.filter(({ record }) => record.found === "not_looked").length;
  return (
    <section aria-labelledby="inspection" className="px-4 pt-3 pb-6">
      <h2 id="inspection" className="font-figure text-[18px] font-semibold">
        Looked over as it came
      </h2>
      <p className="text-[14px] text-ink-2">
        New parts too, and before anything is assembled. Clean and degrease first; cracks start at
        bolt holes and along the rail.
      </p>
      {kept.fault && (
        <p role="alert" className="py-1 text-[14px] text-bad">
          {kept.fault}
        </p>
      )}
      {!kept.rows ? (
        !kept.fault && <p className="pt-1 text-[14px] text-ink-2">Looking it up…</p>
      ) : kept.rows.length === 0 && !begun ? (
        <Button look="main" className="mt-3" onClick={() => setBegun(true)}>
          Begin the inspection
        </Button>
      ) : (
        <>
          <p className="pt-1 font-figure text-[14px]">
            {left === 0 ? "All looked at." : `${left} of ${items.length} still to look at.`}
          </p>
          <ul>
            {items.map(({ row, record }) => (
              <Item
                key={record.item}
                row={record}
                taken={row}
                buildId={buildId}
                onPut={(next) => kept.put(next, row?.id)}
              />
            ))}
          </ul>
        </>
      )}
    </section>
  );
}
