import { useState, type ReactElement, type ReactNode } from "react";
import type { UseMutationResult } from "@tanstack/react-query";
import { Refusal, wordsOf } from "../../api/client";
import type { Act } from "../../api/queries";
import { useBuildView } from "../../document/BuildContext";
import { FileButton } from "../../parts/FileButton";
import { useSettings } from "../../parts/settings";

/** A file of elsewhere, how it is said to lie, what was read of it, and what came of laying it. */
export interface ReadIn<Asked, Found> {
  asked: Asked;
  file: File | null;
  read: UseMutationResult<Found, Error, { file: File; asked: Asked }>;
  said: string | null;
  /** Takes a file; reads it. */
  take: (file: File) => void;
  /** Says otherwise how it lies; reads it anew. */
  lies: (more: Partial<Asked>) => void;
  /** Does an act with what was read, and says so. */
  lay: (act: object, done: string) => void;
}

/** Doing an act with what was read in, and what came of it. */
export function useLaying(): {
  said: string | null;
  forget: () => void;
  lay: (act: object, done: string) => void;
} {
  const { edit } = useBuildView();
  const { system } = useSettings();
  const [said, setSaid] = useState<string | null>(null);
  const lay = (act: object, done: string): void => {
    edit
      .mutateAsync({ kind: "act", act: act as Act, system })
      .then(() => setSaid(done))
      .catch((error: unknown) => setSaid(wordsOf(error)))
      .finally(() => edit.reset());
  };
  return { said, forget: () => setSaid(null), lay };
}

export function useReadIn<Asked, Found>(
  read: ReadIn<Asked, Found>["read"],
  first: Asked,
): ReadIn<Asked, Found> {
  const { said, forget, lay } = useLaying();
  const [asked, setAsked] = useState(first);
  const [file, setFile] = useState<File | null>(null);
  const ask = (next: Asked, from: File | null): void => {
    setAsked(next);
    setFile(from);
    forget();
    if (from) read.mutate({ file: from, asked: next });
  };
  return {
    asked,
    file,
    read,
    said,
    take: (each) => ask(asked, each),
    lies: (more) => ask({ ...asked, ...more }, file),
    lay,
  };
}

/** The part of the page where such a file is chosen, described, and what was read is shown. */
export function ReadInPart<Asked, Found>({
  of,
  head,
  about,
  accept,
  label,
  what,
  children,
  shown,
}: {
  of: ReadIn<Asked, Found>;
  head: string;
  about: string;
  accept: string;
  label: string;
  /** The mesh, the drawing. */
  what: string;
  /** How it lies. */
  children: ReactNode;
  shown: (found: Found) => ReactElement;
}): ReactElement {
  const { error } = of.read;
  const fault = error instanceof Refusal ? error.words(() => "It") : error && wordsOf(error);
  return (
    <details className="border-b border-hair px-4 py-2">
      <summary className="py-1 text-[14px] font-medium">{head}</summary>
      <p className="text-[13px] text-ink-2">{about}</p>
      <p className="py-2">
        <FileButton accept={accept} label={label} onFile={of.take}>
          {of.file ? `Another ${what}` : `Choose the ${what}`}
        </FileButton>
        {of.file && <span className="pl-2 text-[14px]">{of.file.name}</span>}
      </p>
      {children}
      {of.read.isPending && <p className="py-2 text-[14px] text-ink-2">Reading the {what}…</p>}
      {fault && (
        <p role="alert" className="py-2 text-[14px] text-bad">
          {fault}
        </p>
      )}
      {of.read.isSuccess && shown(of.read.data)}
      {of.said && (
        <p role="status" className="py-1 text-[14px]">
          {of.said}
        </p>
      )}
    </details>
  );
}
