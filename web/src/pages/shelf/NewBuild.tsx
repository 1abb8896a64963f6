import { useState, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import { useImportBuild, useNewBuild, useTemplates } from "../../api/queries";
import { Button } from "../../parts/Button";
import { FileButton } from "../../parts/FileButton";
import { Notice, Waiting } from "../../parts/Notice";
import { InUnits } from "../../parts/InUnits";

/** A new build from a template, or from a document file. */
export function NewBuild({
  onOpen,
}: {
  onOpen: (id: number, stage: "car" | "slosh") => void;
}): ReactElement {
  const templates = useTemplates();
  const create = useNewBuild();
  const bring = useImportBuild();
  const [picked, setPicked] = useState("");
  const [name, setName] = useState("");
  const template = picked || (templates.data?.[0]?.key ?? "");
  const error = create.error ?? bring.error;
  return (
    <section aria-labelledby="new-build" className="mt-8 lg:mt-0">
      <h2 id="new-build" className="font-figure text-[22px] font-semibold">
        New build
      </h2>
      <form
        className="mt-2 border-t border-ink pt-3"
        onSubmit={(event) => {
          event.preventDefault();
          create.mutate({ template, name }, { onSuccess: (build) => onOpen(build.id, "car") });
        }}
      >
        <label className="mb-3 block text-[14px]">
          Name of the car or build
          <input
            required
            maxLength={80}
            value={name}
            onChange={(event) => setName(event.target.value)}
            className="mt-1 block h-10 w-full rounded-[2px] border border-ink bg-panel px-3"
          />
        </label>
        <fieldset>
          <legend className="mb-1 text-[14px]">Begin from the nearest layout</legend>
          {!templates.data && (
            <Waiting
              error={templates.error ? wordsOf(templates.error) : null}
              what="the layouts"
              onRetry={() => void templates.refetch()}
            />
          )}
          {templates.data?.map((each) => (
            <label key={each.key} className="flex gap-3 border-b border-hair py-2 text-[14px]">
              <input
                type="radio"
                name="template"
                value={each.key}
                checked={template === each.key}
                onChange={() => setPicked(each.key)}
                className="mt-1 accent-[var(--ink)]"
              />
              <span>
                <span className="font-medium">{each.name}</span>
                <span className="block text-[13px] text-ink-2">
                  <InUnits words={each.words} />
                </span>
              </span>
            </label>
          ))}
        </fieldset>
        <div className="mt-4 flex flex-wrap gap-2">
          <Button look="main" type="submit" disabled={create.isPending || !template}>
            {create.isPending ? "Making it…" : "Make the build"}
          </Button>
          <FileButton
            accept=".zip,.json,application/zip,application/json"
            label="Saved build or document"
            disabled={bring.isPending}
            onFile={(file) =>
              bring.mutate(file, { onSuccess: (build) => onOpen(build.id, "slosh") })
            }
          >
            From a file
          </FileButton>
        </div>
        <p className="mt-2 text-[13px] text-ink-2">
          A file: a saved build with its records, job cards and order, or a document alone.
        </p>
      </form>
      {error && (
        <div className="mt-3">
          <Notice kind="bad" title="Not made">
            {wordsOf(error)}
          </Notice>
        </div>
      )}
    </section>
  );
}
