import { useState, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import { useSetHours, useSetPrice, type OptionRow } from "../../api/options";

type Needs = NonNullable<OptionRow["needs"]>;

/** One figure of the workshop's own: what is typed goes at once, an empty field takes it back. */
function Own({
  label,
  value,
  unit,
  isOwn,
  onType,
}: {
  label: string;
  value: number;
  unit: string;
  isOwn: boolean;
  onType: (value: number | null) => Promise<unknown>;
}): ReactElement {
  const [text, setText] = useState<string | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const commit = (): void => {
    if (text === null) return;
    const typed = text.trim() === "" ? null : Number(text);
    if (typed !== null && !(Number.isFinite(typed) && typed >= 0)) {
      setFault("a figure of nil or more, or nothing for Bilge's own");
      return;
    }
    setFault(null);
    onType(typed).then(
      () => setText(null),
      (error: unknown) => setFault(wordsOf(error)),
    );
  };
  return (
    <span className="inline-flex items-baseline gap-0.5">
      <input
        aria-label={label}
        aria-invalid={fault !== null}
        title={fault ?? (isOwn ? "your own" : "Bilge's: type your own over it")}
        inputMode="decimal"
        value={text ?? `${value}`}
        onChange={(event) => setText(event.target.value)}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === "Enter") commit();
          if (event.key === "Escape") setText(null);
        }}
        className={`w-12 border-b border-dotted bg-transparent text-right font-figure text-[15px] font-semibold ${fault ? "border-bad text-bad" : "border-ink"}`}
      />
      <span className="text-[13px] text-ink-2">{unit}</span>
      {fault && (
        <span role="alert" className="text-[13px] text-bad">
          {fault}
        </span>
      )}
    </span>
  );
}

/** What a remedy takes, row by row; any price, wait and hours may be typed over. */
export function TypeOver({ needs }: { needs: Needs }): ReactElement {
  const price = useSetPrice();
  const hours = useSetHours();
  return (
    <details className="mt-2 border-t border-hair pt-1">
      <summary className="py-0.5 text-[14px]">
        What it takes: ${needs.cost.toFixed(0)}, {needs.hours.toFixed(1)} h, {needs.lead_days} d,{" "}
        {needs.weight_kg > 0 ? "+" : ""}
        {needs.weight_kg.toFixed(1)} kg
      </summary>
      <table className="w-full text-[14px]">
        <tbody>
          {needs.parts.map((part) => (
            <tr key={part.key} className="border-b border-hair">
              <td className="py-0.5 pr-2">
                {part.count} × {part.words}
                {part.invented && <span className="text-ink-2"> (invented)</span>}
              </td>
              <td className="whitespace-nowrap text-right">
                <Own
                  label={`Cost of one: ${part.words}`}
                  value={part.count > 0 ? Math.round((100 * part.cost) / part.count) / 100 : 0}
                  unit={`$/${part.per}`}
                  isOwn={!part.invented}
                  onType={(cost) =>
                    price.mutateAsync({
                      key: part.key,
                      cost,
                      lead_days: cost === null ? null : part.lead_days,
                    })
                  }
                />
              </td>
            </tr>
          ))}
          {needs.operations.map((each) => (
            <tr key={each.key} className="border-b border-hair">
              <td className="py-0.5 pr-2">
                {each.times > 1 ? `${each.times} × ` : ""}
                {each.words}
                {each.guessed && each.source.startsWith("ours") && (
                  <span className="text-ink-2"> (guess)</span>
                )}
              </td>
              <td className="whitespace-nowrap text-right">
                <Own
                  label={`Hours of one: ${each.words}`}
                  value={each.times > 0 ? Math.round((100 * each.hours) / each.times) / 100 : 0}
                  unit="h"
                  isOwn={!each.guessed}
                  onType={(value) => hours.mutateAsync({ key: each.key, hours: value })}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}
