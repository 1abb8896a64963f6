import { useState, type SubmitEvent, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import { useDropOwnPart, useSetOwnPart, type OwnPartIn } from "../../api/lines";
import { useShop } from "../../api/options";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { useFormUnits, type Settings } from "../../parts/settings";
import { lengthAs, storedFrom } from "../../parts/units";
import { TextRow } from "./TextRow";

const PER = { piece: "piece", metre: "metre", litre: "litre", set: "set", pair: "pair" } as const;
const TURNS = { "0": "straight", "45": "45°", "90": "90°" } as const;
const NO_END = "none: no fitting";

const BLANK = {
  words: "",
  per: "piece" as keyof typeof PER,
  cost: "",
  days: "",
  first: "",
  second: "",
  turn: "0" as keyof typeof TURNS,
  height: "",
  spanner: "",
};
type Filled = typeof BLANK;

/** The key that a part is kept by: its name in small letters, which tells it apart here. */
export const keyOf = (words: string): string =>
  `own_${words
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "_")
    .replace(/^_+|_+$/g, "")
    .slice(0, 30)}`;

const figure = (typed: string): number => Number(typed.replace(",", "."));

/** What is filled in, as it is kept. */
export const partOf = (
  filled: Filled,
  { units, system }: Pick<Settings, "units" | "system">,
): OwnPartIn => ({
  words: filled.words.trim(),
  per: filled.per,
  cost: figure(filled.cost),
  lead_days: figure(filled.days),
  weight_kg: 0,
  end_1: filled.first,
  end_2: filled.second,
  angle_deg: filled.first === "" ? 0 : Number(filled.turn),
  height_mm:
    filled.first === "" ? 0 : storedFrom(units, "height_mm", system, figure(filled.height)),
  spanner: filled.spanner.trim(),
});

function NewPart({ threads }: { threads: Readonly<Record<string, string>> }): ReactElement {
  const keep = useSetOwnPart();
  const { units, system } = useFormUnits();
  const [filled, setFilled] = useState<Filled>(BLANK);
  const set = (change: Partial<Filled>): void => setFilled({ ...filled, ...change });
  const ends = { "": NO_END, ...threads };
  const send = (event: SubmitEvent): void => {
    event.preventDefault();
    keep.mutate(
      { key: keyOf(filled.words), ...partOf(filled, { units, system }) },
      { onSuccess: () => setFilled(BLANK) },
    );
  };
  return (
    <form aria-label="A part of our own" onSubmit={send} className="border-l-2 border-ink pl-3">
      <TextRow label="Part" value={filled.words} wide onSet={(words) => set({ words })} />
      <Choice label="One is a" value={filled.per} choices={PER} onChoose={(per) => set({ per })} />
      <TextRow label="Cost of one" value={filled.cost} onSet={(cost) => set({ cost })} />
      <TextRow label="Days until it is here" value={filled.days} onSet={(days) => set({ days })} />
      <Choice<string>
        label="One end"
        value={filled.first}
        choices={ends}
        onChoose={(first) => set({ first, second: first === "" ? "" : filled.second })}
      />
      {filled.first !== "" && (
        <>
          <Choice<string>
            label="The other end"
            value={filled.second}
            choices={ends}
            onChoose={(second) => set({ second })}
          />
          <Choice
            label="It turns"
            value={filled.turn}
            choices={TURNS}
            onChoose={(turn) => set({ turn })}
          />
          <TextRow
            label={`Joint to joint, ${lengthAs(units, system, 0).unit}`}
            value={filled.height}
            onSet={(height) => set({ height })}
          />
          <TextRow
            label="Spanner"
            value={filled.spanner}
            mayBeEmpty
            onSet={(spanner) => set({ spanner })}
          />
        </>
      )}
      {keep.error && (
        <p role="alert" className="py-1 text-[14px] text-bad">
          {wordsOf(keep.error)}
        </p>
      )}
      <Button look="main" type="submit" className="my-2" disabled={keep.isPending}>
        Add it
      </Button>
    </form>
  );
}

/** Parts that the workshop keeps besides the starting set: fittings count in every chain. */
export function OwnParts(): ReactElement {
  const [isOpen, setIsOpen] = useState(false);
  const { data: shop, error } = useShop(isOpen);
  const drop = useDropOwnPart();
  return (
    <details
      className="border-t border-hair px-4 py-2"
      onToggle={(event) => setIsOpen(event.currentTarget.open)}
    >
      <summary className="text-[14px]">Parts of our own in the catalogue</summary>
      <p className="py-1 text-[13px] text-ink-2">
        One with two threaded ends is tried in every line&apos;s chain of fittings. The catalogue as
        CSV has them too, under keys that begin with own_.
      </p>
      {error && <p role="alert">{wordsOf(error)}</p>}
      {!shop && !error && <p className="text-[14px] text-ink-2">Looking them up…</p>}
      {shop?.own_parts.length === 0 && <p className="text-[14px]">None yet.</p>}
      <ul>
        {shop?.own_parts.map((part) => (
          <li
            key={part.key}
            className="flex items-baseline justify-between gap-3 border-b border-hair py-1 text-[14px]"
          >
            <span>
              {part.words}
              <span className="block text-[13px] text-ink-2">
                {part.cost} a {part.per}, {part.lead_days} days
                {part.end_1 &&
                  `; ${shop.threads[part.end_1] ?? part.end_1} to ${shop.threads[part.end_2] ?? part.end_2}`}
              </span>
            </span>
            <Button
              look="bare"
              className="shrink-0 px-0 whitespace-nowrap underline"
              aria-label={`Take ${part.words} out of the catalogue`}
              disabled={drop.isPending}
              onClick={() => drop.mutate(part.key)}
            >
              take out
            </Button>
          </li>
        ))}
      </ul>
      {shop && <NewPart threads={shop.threads} />}
    </details>
  );
}
