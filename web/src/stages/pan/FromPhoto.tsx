import { useEffect, useState, type ReactElement } from "react";
import { Refusal, wordsOf } from "../../api/client";
import { useTraceFlange, type DrawingAsked } from "../../api/drawing";
import { useBuildView } from "../../document/BuildContext";
import { Button } from "../../parts/Button";
import { Dialog } from "../../parts/Dialog";
import { FileButton } from "../../parts/FileButton";
import { useSettings } from "../../parts/settings";
import { BOX, FlangeFound, HowItLies } from "./FlangeFound";
import { useLaying } from "./ReadIn";
import { TracePicture, type Picture } from "./TracePicture";
import * as tracing from "./tracing";
import { KINDS, NOTHING, WORDS, type Kind, type Picked } from "./tracing";

/** A picture as the browser shows it, upright; null while there is none, or it is none. */
function usePicture(file: File | null): { picture: Picture | null; isBad: boolean } {
  const [read, setRead] = useState<{ file: File; picture: Picture | null } | null>(null);
  useEffect(() => {
    if (!file) return undefined;
    const href = URL.createObjectURL(file);
    const image = new Image();
    image.onload = () => {
      const { naturalWidth: wide, naturalHeight: high } = image;
      setRead({ file, picture: { href, wide, high } });
    };
    image.onerror = () => setRead({ file, picture: null });
    image.src = href;
    return () => URL.revokeObjectURL(href);
  }, [file]);
  const own = read?.file === file ? read : null;
  return { picture: own?.picture ?? null, isBad: own !== null && own.picture === null };
}

/** The box in which places are picked. */
function Tracing({
  picture,
  picked,
  onPicked,
  onClose,
}: {
  picture: Picture;
  picked: Picked;
  onPicked: (picked: Picked) => void;
  onClose: () => void;
}): ReactElement {
  const [kind, setKind] = useState<Kind>(
    KINDS.find((each) => picked[each].length === 0) ?? "outline",
  );
  return (
    <Dialog title="Trace the flange" wide onClose={onClose}>
      <div role="group" aria-label="What is picked" className="flex flex-wrap gap-2 px-4 pt-3">
        {KINDS.map((each) => (
          <Button
            key={each}
            look={each === kind ? "main" : "plain"}
            aria-pressed={each === kind}
            onClick={() => setKind(each)}
          >
            {WORDS[each]} {picked[each].length}
          </Button>
        ))}
        <Button
          disabled={picked[kind].length === 0}
          onClick={() => onPicked(tracing.without(picked, kind, picked[kind].length - 1))}
        >
          Take the last back
        </Button>
      </div>
      <p role="status" className="px-4 py-1 text-[15px] font-medium">
        {tracing.nextWords(kind, picked)}
      </p>
      <TracePicture
        picture={picture}
        picked={picked}
        kind={kind}
        onPick={(at) => {
          const next = tracing.withPlace(picked, kind, at);
          onPicked(next);
          setKind(tracing.kindAfter(kind, next));
        }}
        onMove={(of, index, at) => onPicked(tracing.movedTo(picked, of, index, at))}
        onGone={(of, index) => onPicked(tracing.without(picked, of, index))}
      />
    </Dialog>
  );
}

interface Figures {
  wide_mm: string;
  high_mm: string;
  hole_mm: string;
}

const ASKED: readonly (readonly [keyof Figures, string])[] = [
  ["wide_mm", "Paper, across the picture"],
  ["high_mm", "Paper, up the picture"],
  ["hole_mm", "Bolt holes' diameter"],
];

function FiguresOfIt({
  figures,
  onChange,
}: {
  figures: Figures;
  onChange: (figures: Figures) => void;
}): ReactElement {
  return (
    <>
      {ASKED.map(([key, label]) => (
        <label
          key={key}
          className="flex items-center justify-between gap-2 py-1 text-[14px] text-ink-2"
        >
          {label}
          <input
            value={figures[key]}
            maxLength={40}
            onChange={(event) => onChange({ ...figures, [key]: event.target.value })}
            className={BOX}
          />
        </label>
      ))}
    </>
  );
}

/** The flange, and a pan's opening, traced on a photograph with a sheet of paper on it. */
export function FromPhoto(): ReactElement {
  const { build } = useBuildView();
  const { system } = useSettings();
  const [file, setFile] = useState<File | null>(null);
  const { picture, isBad } = usePicture(file);
  const [isOpen, setOpen] = useState(false);
  const [picked, setPicked] = useState<Picked>(NOTHING);
  const [lying, setLying] = useState<Pick<DrawingAsked, "ahead" | "seen">>({
    ahead: "up",
    seen: "below",
  });
  const [figures, setFigures] = useState<Figures>(
    system === "us"
      ? { wide_mm: "11 in", high_mm: "8.5 in", hole_mm: "9/32 in" }
      : { wide_mm: "297 mm", high_mm: "210 mm", hole_mm: "7 mm" },
  );
  const trace = useTraceFlange(build);
  const { said, forget, lay } = useLaying();
  const lacking = tracing.lacking(picked);
  const { error } = trace;
  const fault = error instanceof Refusal ? error.words(labelOf) : error && wordsOf(error);
  const again = (): void => {
    trace.reset();
    forget();
  };
  const take = (next: File): void => {
    setFile(next);
    setPicked(NOTHING);
    again();
    setOpen(true);
  };
  const read = (): void =>
    trace.mutate({
      ...figures,
      ...lists(picked),
      system,
      ahead: lying.ahead,
      mirrored: lying.seen === "below",
    });
  return (
    <details className="border-b border-hair px-4 py-2">
      <summary className="py-1 text-[14px] font-medium">Flange from a photograph</summary>
      <p className="text-[13px] text-ink-2">
        Lay a sheet of paper flat on the flange, or on what is level with it, and take the picture
        from well back over the middle. It stays on this device: only the places picked are sent.
      </p>
      <p className="flex flex-wrap items-center gap-2 py-2">
        <FileButton accept="image/*" label="Photograph of the flange" onFile={take}>
          {file ? "Another photograph" : "Choose the photograph"}
        </FileButton>
        {picture && <Button onClick={() => setOpen(true)}>Trace it</Button>}
      </p>
      {isBad && (
        <p role="alert" className="py-1 text-[14px] text-bad">
          This is no picture that the browser can show; give a JPEG, PNG or WebP.
        </p>
      )}
      {picture && isOpen && (
        <Tracing
          picture={picture}
          picked={picked}
          onPicked={(next) => {
            setPicked(next);
            again();
          }}
          onClose={() => setOpen(false)}
        />
      )}
      {picture && (
        <>
          <FiguresOfIt figures={figures} onChange={setFigures} />
          <HowItLies
            asked={lying}
            lies={(more) => setLying((before) => ({ ...before, ...more }))}
          />
          {lacking && <p className="py-1 text-[14px]">Wanted still: {lacking}</p>}
          <Button
            look="main"
            className="mt-2"
            disabled={lacking !== "" || trace.isPending}
            onClick={read}
          >
            Take the perspective out
          </Button>
        </>
      )}
      {fault && (
        <p role="alert" className="py-2 text-[14px] text-bad">
          {fault}
        </p>
      )}
      {trace.data && (
        <FlangeFound
          drawing={trace.data}
          onLay={(asked) => lay({ kind: "flange_drawn", ...asked }, "Laid. Undo takes it back.")}
        />
      )}
      {said && (
        <p role="status" className="py-1 text-[14px]">
          {said}
        </p>
      )}
    </details>
  );
}

/** As the server takes them. */
const lists = (picked: Picked): Record<Kind, [number, number][]> => {
  const plain = (kind: Kind): [number, number][] => picked[kind].map(([x, y]) => [x, y]);
  return {
    corners: plain("corners"),
    outline: plain("outline"),
    opening: plain("opening"),
    holes: plain("holes"),
  };
};

const labelOf = (field: string): string => {
  const key = field.split(".").find((each) => /^[a-z]/.test(each) && each !== "trace") ?? field;
  return (
    ASKED.find(([each]) => each === key)?.[1] ??
    (WORDS as Readonly<Record<string, string>>)[key] ??
    (field.endsWith("diameter_mm") ? "Bolt holes' diameter" : "It")
  );
};
