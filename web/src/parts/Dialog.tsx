import { useEffect, useId, useRef, type ReactElement, type ReactNode } from "react";

/**
 * A box over the page; what is marked `data-first` in it gets the focus. It is the browser's own:
 * it holds the focus, Escape closes it, and it needs no style written into the page, which the
 * security policy would refuse.
 */
export function Dialog({
  title,
  wide = false,
  onClose,
  children,
}: {
  title: string;
  wide?: boolean;
  onClose: () => void;
  children: ReactNode;
}): ReactElement {
  const box = useRef<HTMLDialogElement>(null);
  const id = useId();
  useEffect(() => {
    const dialog = box.current;
    dialog?.showModal();
    dialog?.querySelector<HTMLElement>("[data-first]")?.focus();
    return () => dialog?.close();
  }, []);
  return (
    <dialog
      ref={box}
      aria-labelledby={id}
      onCancel={(event) => {
        event.preventDefault();
        onClose();
      }}
      onKeyDown={(event) => event.stopPropagation()}
      onClick={(event) => {
        if (event.target === box.current) onClose();
      }}
      className={`m-auto max-h-[86vh] max-w-[94vw] flex-col border-2 border-ink bg-panel p-0 text-ink backdrop:bg-ink/40 open:flex ${
        wide ? "w-[860px]" : "w-[540px]"
      }`}
    >
      <header className="flex items-center justify-between gap-4 border-b border-ink px-4 py-2">
        <h2 id={id} className="font-figure text-[20px] font-semibold">
          {title}
        </h2>
        <button
          type="button"
          onClick={onClose}
          aria-label={`Close ${title}`}
          className="border border-ink px-2 py-0.5 text-[13px]"
        >
          Close
        </button>
      </header>
      <div className="min-h-0 flex-1 overflow-y-auto" tabIndex={0}>
        {children}
      </div>
    </dialog>
  );
}
