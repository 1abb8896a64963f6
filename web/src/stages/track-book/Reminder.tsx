import type { ReactElement } from "react";
import { Link } from "react-router";
import { Mark } from "../../parts/Mark";
import { useOverdue } from "./state";

/** What is overdue, under the build's name wherever one is. */
export function Reminder({ to }: { to: string }): ReactElement | null {
  const overdue = useOverdue();
  const [first] = overdue;
  if (!first) return null;
  return (
    <Link
      to={to}
      title={`overdue: ${overdue.map(({ name }) => name).join(", ")}`}
      className="flex items-center gap-1 font-figure text-[13px] font-semibold text-bad underline"
    >
      <Mark state="bad" size={13} />
      {overdue.length} overdue
    </Link>
  );
}
