import { useState, type SubmitEvent, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import { useBuyBesides, type LinesStage } from "../../api/lines";
import { useShop } from "../../api/options";
import { useBuildView } from "../../document/BuildContext";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { TextRow } from "./TextRow";

/** What the order has besides what lines and parts of the circuit take. */
export function BuyBesides({ stage }: { stage: LinesStage }): ReactElement {
  const { build } = useBuildView();
  const [isOpen, setIsOpen] = useState(false);
  const { data: shop, error } = useShop(isOpen);
  const buy = useBuyBesides(build);
  const [filled, setFilled] = useState({ part: "", count: "1", why: "" });
  const set = (change: Partial<typeof filled>): void => setFilled({ ...filled, ...change });
  const parts = [...(shop?.own_parts ?? []), ...(shop?.parts ?? [])];
  const words = Object.fromEntries(parts.map(({ key, words }) => [key, words] as const));
  const part = filled.part in words ? filled.part : (parts[0]?.key ?? "");
  const send = (event: SubmitEvent): void => {
    event.preventDefault();
    const count = Number(filled.count.replace(",", "."));
    buy.mutate({ part, count, why: filled.why }, { onSuccess: () => set({ count: "1", why: "" }) });
  };
  const inOrder = new Map(stage.lines.order.map((row) => [row.part, row.words]));
  return (
    <details
      className="border-t border-hair px-4 py-2"
      onToggle={(event) => setIsOpen(event.currentTarget.open)}
    >
      <summary className="text-[14px]">
        Bought besides{stage.besides.length > 0 ? `: ${stage.besides.length}` : ""}
      </summary>
      <ul aria-label="Bought besides">
        {stage.besides.map((row) => (
          <li
            key={row.part}
            className="flex items-baseline justify-between gap-3 border-b border-hair py-1 text-[14px]"
          >
            <span>
              {row.count} {inOrder.get(row.part) ?? row.part}, {row.why}
            </span>
            <Button
              look="bare"
              className="shrink-0 px-0 whitespace-nowrap underline"
              aria-label={`Take ${inOrder.get(row.part) ?? row.part} off the order`}
              onClick={() => buy.mutate({ part: row.part, count: 0, why: "" })}
            >
              take off
            </Button>
          </li>
        ))}
      </ul>
      {(error ?? buy.error) && (
        <p role="alert" className="py-1 text-[14px] text-bad">
          {wordsOf(error ?? buy.error)}
        </p>
      )}
      {shop && (
        <form aria-label="Something bought besides" onSubmit={send}>
          <Choice<string>
            label="Part"
            value={part}
            choices={words}
            onChoose={(key) => set({ part: key })}
          />
          <TextRow label="How many" value={filled.count} onSet={(count) => set({ count })} />
          <TextRow
            label="What for"
            value={filled.why}
            wide
            mayBeEmpty
            onSet={(why) => set({ why })}
          />
          <Button type="submit" className="my-2" disabled={buy.isPending}>
            Put it on the order
          </Button>
        </form>
      )}
    </details>
  );
}
