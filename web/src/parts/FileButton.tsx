import { useRef, type ReactElement, type ReactNode } from "react";
import { Button } from "./Button";

/** A button that asks for a file, or for several at once: each is handed on by itself. */
export function FileButton({
  accept,
  label,
  look,
  disabled,
  several,
  onFile,
  children,
}: {
  accept: string;
  label: string;
  look?: "main" | "plain";
  disabled?: boolean;
  several?: boolean;
  onFile: (file: File) => void;
  children: ReactNode;
}): ReactElement {
  const input = useRef<HTMLInputElement>(null);
  return (
    <span className="relative">
      <input
        ref={input}
        type="file"
        accept={accept}
        aria-label={label}
        multiple={several}
        tabIndex={-1}
        className="sr-only"
        onChange={(event) => {
          const files = [...(event.target.files ?? [])];
          event.target.value = "";
          files.forEach(onFile);
        }}
      />
      <Button look={look ?? "plain"} disabled={disabled} onClick={() => input.current?.click()}>
        {children}
      </Button>
    </span>
  );
}
