import type { ButtonHTMLAttributes, ReactElement } from "react";

type Look = "main" | "plain" | "bad" | "bare";

const looks: Record<Look, string> = {
  main: "bg-ink text-paper border-ink font-semibold",
  plain: "bg-panel text-ink border-ink font-medium",
  bad: "bg-panel text-bad border-bad font-medium",
  bare: "border-transparent text-ink",
};

export function Button({
  look = "plain",
  className = "",
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { look?: Look }): ReactElement {
  return (
    <button
      type="button"
      {...rest}
      className={`inline-flex min-h-8 items-center justify-center gap-2 rounded-[2px] border px-3 py-1 text-[14px] disabled:opacity-50 ${looks[look]} ${className}`}
    />
  );
}
