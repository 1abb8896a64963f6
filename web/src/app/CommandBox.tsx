import { useId, useState, type KeyboardEvent, type ReactElement } from "react";
import { useCommandList, type Command } from "../parts/commands";
import { Dialog } from "../parts/Dialog";

/** The commands that hold all words typed, those that begin with them first. */
export function matching(commands: readonly Command[], typed: string): Command[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const first = words[0] ?? "";
  return commands
    .filter(({ words: said, group }) =>
      words.every((word) => `${said} ${group}`.toLowerCase().includes(word)),
    )
    .sort(
      (one, other) =>
        Number(other.words.toLowerCase().startsWith(first)) -
        Number(one.words.toLowerCase().startsWith(first)),
    );
}

/** A figure typed as a command, "oil 7 qt": its name and the figure with its unit. */
export function typedFigure(
  typed: string,
  names: Readonly<Record<string, string>>,
): { name: string; field: string; figure: string } | null {
  const match = /^\s*([a-z ]+?)\s+([-−\d].*)$/i.exec(typed);
  const name = match?.[1]?.toLowerCase() ?? "";
  const field = names[name];
  return field && match?.[2] ? { name, field, figure: match[2].trim() } : null;
}

/** Everything that can be done here, found by typing. */
export function CommandBox({
  figures,
  onFigure,
  onClose,
}: {
  figures: Readonly<Record<string, string>>;
  onFigure: (field: string, typed: string) => void;
  onClose: () => void;
}): ReactElement {
  const all = useCommandList();
  const [typed, setTyped] = useState("");
  const [at, setAt] = useState(0);
  const id = useId();
  const figure = typedFigure(typed, figures);
  const found: { id: string; words: string; shown?: string; run: () => void }[] = [
    ...(figure
      ? [
          {
            id: "figure",
            words: `Set ${figure.name} to ${figure.figure}`,
            run: () => onFigure(figure.field, figure.figure),
          },
        ]
      : []),
    ...matching(all, typed).map((command) => ({
      ...command,
      shown: command.shown ?? command.key,
    })),
  ];
  const here = Math.min(at, found.length - 1);
  const run = (index: number): void => {
    const command = found[index];
    if (!command) return;
    onClose();
    command.run();
  };
  function onKey(event: KeyboardEvent): void {
    if (event.key === "ArrowDown" || event.key === "ArrowUp") {
      event.preventDefault();
      const next = here + (event.key === "ArrowDown" ? 1 : -1);
      setAt(Math.min(found.length - 1, Math.max(0, next)));
      document.getElementById(`${id}-${next}`)?.scrollIntoView({ block: "nearest" });
    }
    if (event.key === "Enter") {
      event.preventDefault();
      run(here);
    }
  }
  return (
    <Dialog title="Do something" onClose={onClose}>
      <div className="border-b border-hair p-3">
        <input
          data-first
          role="combobox"
          aria-label="What to do"
          aria-expanded="true"
          aria-controls={`${id}-list`}
          aria-activedescendant={found.length > 0 ? `${id}-${here}` : undefined}
          placeholder="next dip · night · oil 7 qt"
          autoComplete="off"
          value={typed}
          onChange={(event) => {
            setTyped(event.target.value);
            setAt(0);
          }}
          onKeyDown={onKey}
          className="h-10 w-full border border-ink bg-paper px-3 text-[16px] text-ink placeholder:text-ink-2"
        />
      </div>
      <ul
        id={`${id}-list`}
        role="listbox"
        aria-label="What can be done"
        className="max-h-[50vh] overflow-y-auto py-1"
      >
        {found.map((command, index) => (
          <li
            key={command.id}
            id={`${id}-${index}`}
            role="option"
            aria-selected={index === here}
            onMouseMove={() => setAt(index)}
            onClick={() => run(index)}
            className={`flex cursor-pointer justify-between gap-4 px-4 py-1 text-[15px] ${index === here ? "bg-ink text-paper" : ""}`}
          >
            {command.words}
            {command.shown && (
              <kbd className="shrink-0 font-figure text-[14px]">{command.shown}</kbd>
            )}
          </li>
        ))}
      </ul>
      {found.length === 0 && (
        <p className="px-4 pb-3 text-ink-2">
          Nothing here goes by that. A figure is typed with its name first:{" "}
          {Object.keys(figures).slice(0, 3).join(", ")}.
        </p>
      )}
    </Dialog>
  );
}
