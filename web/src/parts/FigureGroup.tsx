import type { ReactElement, ReactNode } from "react";

/** Figures that belong together, under a heading. */
export function FigureGroup({
  title,
  children,
}: {
  title: string;
  children: ReactNode;
}): ReactElement {
  return (
    <section className="px-4 pt-3 pb-4">
      <h2 className="border-b border-ink pb-1 font-figure text-[18px] font-semibold">{title}</h2>
      {children}
    </section>
  );
}
