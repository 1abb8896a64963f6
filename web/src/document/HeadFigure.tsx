import type { ReactElement } from "react";
import { Link } from "react-router";
import { Mark, type MarkState } from "../parts/Mark";

/** One of the head strip's figures: it leads to its evidence. Without a value its word stands alone. */
export function HeadFigure({
  name,
  to,
  value,
  unit,
  mark,
  word,
  title,
}: {
  name: string;
  to: string;
  value: string | null;
  unit?: string;
  mark: MarkState;
  word: string;
  /** What the word is short for. */
  title?: string;
}): ReactElement {
  return (
    <Link
      to={to}
      title={title}
      className="flex w-[114px] flex-col justify-center border-l border-hair px-3 max-[1240px]:w-[96px] max-[1240px]:px-2"
    >
      <span className="text-[13px] text-ink-2">{name}</span>
      {value === null ? (
        <span className="font-figure text-[18px] font-medium text-ink-2">{word}</span>
      ) : (
        <>
          <span
            className={`font-figure text-[28px] leading-8 font-bold whitespace-nowrap max-[1240px]:text-[25px] ${
              mark === "bad" ? "text-bad" : mark === "good" ? "text-good" : ""
            }`}
          >
            {value}{" "}
            <span className="text-[19px] font-medium text-ink-2 max-[1240px]:text-[16px]">
              {unit}
            </span>
          </span>
          <span className="flex items-center gap-1 font-figure text-[13px]">
            <Mark state={mark} size={12} /> {word}
          </span>
        </>
      )}
    </Link>
  );
}
