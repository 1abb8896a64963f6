import { useRef, type ReactElement, type ReactNode } from "react";
import { Button } from "./Button";

/** A button that asks for one file. */
export function FileButton({
  accept,
  label,
  look,
  disabled,
  onFile,
  children,
}: {
  accept: string;
  label: string;
  look?: "main" | "plain";
  disabled?: boolean;
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
        tabIndex={-1}
        className="sr-only"
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = "";
          if (file) onFile(file);
        }}
      />
      <Button look={look ?? "plain"} disabled={disabled} onClick={() => input.current?.click()}>
        {children}
      </Button>
    </span>
  );
}
