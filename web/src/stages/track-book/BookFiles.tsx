import type { ReactElement } from "react";
import { useNavigate } from "react-router";
import { bookFile, bookPage, useBringBookIn } from "../../api/book";
import { wordsOf } from "../../api/client";
import type { BuildOut } from "../../api/queries";
import { FileButton } from "../../parts/FileButton";
import { Notice } from "../../parts/Notice";
import { useSettings } from "../../parts/settings";

/** The book on paper, as one file, and one brought in from elsewhere. */
export function BookFiles({ build }: { build: BuildOut }): ReactElement {
  const { system } = useSettings();
  const bring = useBringBookIn();
  const navigate = useNavigate();
  const link = "inline-flex min-h-9 items-center underline";
  return (
    <section aria-label="The book as a file" className="px-4 py-2 text-[15px] lg:px-6">
      <p className="flex flex-wrap items-center gap-x-5 gap-y-1">
        <a className={link} href={bookPage(build, system)} target="_blank" rel="noreferrer">
          Print the book
        </a>
        <a className={link} href={bookFile(build)} download>
          Save the whole book
        </a>
        <FileButton
          accept=".zip,application/zip"
          label="A track book saved by Bilge"
          disabled={bring.isPending}
          onFile={(file) =>
            bring.mutate(file, {
              onSuccess: (made) => void navigate(`/builds/${made.id}/track-book`),
            })
          }
        >
          {bring.isPending ? "Reading it" : "Bring a book in"}
        </FileButton>
      </p>
      <p className="text-[13px] text-ink-2">
        Saved with its states, laps and photos; a book that is brought in becomes a build of its
        own.
      </p>
      {bring.error && (
        <Notice kind="bad" title="The book was not taken">
          {wordsOf(bring.error)}
        </Notice>
      )}
    </section>
  );
}
