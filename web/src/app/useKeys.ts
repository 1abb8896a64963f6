import { useEffect } from "react";
import { keyName, useCommandList } from "../parts/commands";

/** Whether keys typed here belong to a field and not to the frame. */
function inField(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName);
}

const onButton = (target: EventTarget | null): boolean =>
  target instanceof Element && target.closest("button, a, summary, [role=menuitem]") !== null;

const onTabs = (target: EventTarget | null): boolean =>
  target instanceof Element && target.closest("[role=tablist], [role=menu]") !== null;

/** Whether a figure's field holds nothing typed: undo there is the build's, not the text's. */
function isUntouched(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && target.dataset.untouched !== undefined;
}

/** Keys act unless they belong to what has the focus. */
export function useKeys(closed: boolean): void {
  const commands = useCommandList();
  useEffect(() => {
    function onKey(event: KeyboardEvent): void {
      if (!closed || event.defaultPrevented || event.altKey) return;
      const name = keyName(event);
      const command = commands.find(({ key }) => key === name);
      if (!command) return;
      if (inField(event.target) && !(command.inFields && isUntouched(event.target))) return;
      if (name === "space" && onButton(event.target)) return;
      if (/Arrow/.test(name) && onTabs(event.target)) return;
      event.preventDefault();
      command.run();
    }
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [commands, closed]);
}
