import { DropdownMenu } from "radix-ui";
import { useState, type ReactElement } from "react";
import type { Session } from "../api/queries";
import { AccountSheet } from "../pages/account/AccountSheet";
import { useSettings } from "../parts/settings";

/** Units, theme and account: the last cell of every head. */
export function Tools({
  session,
  onSignOut,
}: {
  session: Session;
  onSignOut: () => void;
}): ReactElement {
  const { system, setSystem, theme, setTheme } = useSettings();
  const [isOpen, setOpen] = useState(false);
  const cell = "grid place-items-center border-l border-hair text-[13px] font-semibold";
  const unit = (wanted: "metric" | "us", label: string, name: string): ReactElement => (
    <button
      type="button"
      className={`${cell} border-b ${system === wanted ? "bg-ink text-paper" : "text-ink-2"}`}
      aria-pressed={system === wanted}
      aria-label={name}
      title={`${name} (u)`}
      onClick={() => setSystem(wanted)}
    >
      {label}
    </button>
  );
  return (
    <div className="grid w-[96px] shrink-0 grid-cols-2 grid-rows-2">
      {unit("metric", "mm", "mm, metric units")}
      {unit("us", "in", "in, inch and US units")}
      <button
        type="button"
        className={cell}
        aria-label={theme === "paper" ? "Night theme" : "Paper theme"}
        title={theme === "paper" ? "night theme" : "paper theme"}
        onClick={() => setTheme(theme === "paper" ? "night" : "paper")}
      >
        <svg width="18" height="18" viewBox="0 0 20 20" aria-hidden="true">
          <circle cx="10" cy="10" r="7.5" fill="none" stroke="currentColor" strokeWidth="1.75" />
          <path d="M10 2.5a7.5 7.5 0 0 1 0 15z" fill="currentColor" />
        </svg>
      </button>
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger
          className={cell}
          aria-label={`${session.username.slice(0, 2).toUpperCase()}, account`}
          title="account"
        >
          {session.username.slice(0, 2).toUpperCase()}
        </DropdownMenu.Trigger>
        <DropdownMenu.Content
          align="end"
          className="z-20 border border-ink bg-panel p-1 text-[14px] text-ink"
        >
          <DropdownMenu.Label className="px-3 py-1 text-ink-2">
            {session.username}, {session.workshop}
          </DropdownMenu.Label>
          <DropdownMenu.Item
            onSelect={() => setOpen(true)}
            className="cursor-pointer px-3 py-1 data-[highlighted]:bg-ink data-[highlighted]:text-paper"
          >
            Account and workshop
          </DropdownMenu.Item>
          <DropdownMenu.Item
            onSelect={onSignOut}
            className="cursor-pointer px-3 py-1 data-[highlighted]:bg-ink data-[highlighted]:text-paper"
          >
            Sign out
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Root>
      {isOpen && <AccountSheet onClose={() => setOpen(false)} />}
    </div>
  );
}
