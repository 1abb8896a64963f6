import {
  createContext,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
  type ReactElement,
  type ReactNode,
} from "react";

/** Something that can be done here, by name in the command box, and by a key if it has one. */
export interface Command {
  id: string;
  words: string;
  group: string;
  /** The key as it is written on the sheet, and as the keyboard event names it. */
  key?: string;
  shown?: string;
  run: () => void;
  /** Works while a figure's field is in use but untouched. */
  inFields?: boolean;
}

interface Registry {
  commands: readonly Command[];
  set: (owner: string, commands: readonly Command[] | null) => void;
}

const CommandContext = createContext<Registry | null>(null);

/** Holds the commands of whatever is on the screen. */
export function CommandProvider({ children }: { children: ReactNode }): ReactElement {
  const [owned, setOwned] = useState<Record<string, readonly Command[]>>({});
  const set = useCallback((owner: string, commands: readonly Command[] | null) => {
    setOwned((before) => {
      const others = Object.fromEntries(Object.entries(before).filter(([name]) => name !== owner));
      return commands ? { ...others, [owner]: commands } : others;
    });
  }, []);
  const registry = useMemo(() => ({ commands: Object.values(owned).flat(), set }), [owned, set]);
  return <CommandContext value={registry}>{children}</CommandContext>;
}

function useRegistry(): Registry {
  const registry = useContext(CommandContext);
  if (!registry) throw new Error("commands are used inside their provider");
  return registry;
}

export const useCommandList = (): readonly Command[] => useRegistry().commands;

/** Offer commands while this part is on the screen; what they do is always the newest. */
export function useCommands(owner: string, commands: readonly Command[]): void {
  const { set } = useRegistry();
  const newest = useRef(commands);
  useEffect(() => {
    newest.current = commands;
  });
  const signature = JSON.stringify(commands.map(({ id, words, key }) => [id, words, key]));
  useEffect(() => {
    set(
      owner,
      newest.current.map((command) => ({
        ...command,
        run: () => newest.current.find(({ id }) => id === command.id)?.run(),
      })),
    );
    return () => set(owner, null);
  }, [owner, signature, set]);
}

/** The name of a key press: modifiers first. */
export function keyName(event: {
  key: string;
  ctrlKey: boolean;
  metaKey: boolean;
  shiftKey: boolean;
}): string {
  const key =
    event.key === " " ? "space" : event.key.length === 1 ? event.key.toLowerCase() : event.key;
  const held = event.ctrlKey || event.metaKey ? "ctrl+" : "";
  // a shifted sign is a sign of its own: only letters and named keys carry the shift
  return `${held}${event.shiftKey && /^([a-z]|[A-Z].+)$/.test(key) ? "shift+" : ""}${key}`;
}
