import { useRef, useState, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import { useFit, useSendOffered, type FitStage, type Offered } from "../../api/fit";
import { useSession } from "../../api/queries";
import { useBuildView } from "../../document/BuildContext";
import { Away } from "../../offline/Away";
import { useQueue } from "../../offline/useQueue";
import { BenchHead } from "../../parts/BenchHead";
import { Button } from "../../parts/Button";
import { InspectorTabs } from "../../parts/InspectorTabs";
import { Waiting } from "../../parts/Notice";
import { ReadOut } from "../../parts/ReadOut";
import { useSettings } from "../../parts/settings";
import { useSize } from "../../parts/size";
import { Envelope } from "./Envelope";
import { bestView, type Key } from "./envelope";
import { fitTable } from "./fitTable";
import { draftOf, findingOf, PlaceView, type Draft } from "./PlaceView";
import { PlaceTable } from "./PlaceTable";
import { RoundPage } from "./RoundPage";
import { fitNow, type PlaceNow } from "./standing";
import { entryWords, gapWords, roundSentence } from "./words";

type Page = "place" | "all" | "round";
const PAGES: Readonly<Record<Page, string>> = { place: "Place", all: "All", round: "Round" };
const FRAMES = { car: "as it stands in the car", engine: "square to the engine" } as const;
type FrameName = keyof typeof FRAMES;

const HIGH = 300;

/** What is found at the place on the screen, until it is kept or another is picked. */
function useDraft(place: PlaceNow | undefined): [Draft, (draft: Draft) => void] {
  const [draft, setDraft] = useState<{ id: string; draft: Draft } | null>(null);
  const own = place && draft?.id === place.id ? draft.draft : place ? draftOf(place) : undefined;
  return [
    own ?? { gap: 0, touches: false, done: "" },
    (next) => setDraft({ id: place?.id ?? "", draft: next }),
  ];
}

function TheFit({ stage, me }: { stage: FitStage; me: string }): ReactElement {
  const { build } = useBuildView();
  const { units, system } = useSettings();
  const queue = useQueue<Offered>(`fit:${build.id}`, build.id, me, useSendOffered(build));
  const { fit } = stage;
  const now = fitNow(fit, queue.rows);
  const round = now.rounds.at(-1);
  const [chosen, setChosen] = useState<string | null>(null);
  const [page, setPage] = useState<Page>(round ? "place" : "round");
  const [beside, setBeside] = useState<"place" | "round">(round ? "place" : "round");
  const [frameName, setFrameName] = useState<FrameName>("car");
  const [frame, size] = useSize();
  const drawing = useRef<HTMLDivElement>(null);
  const inOrder = [...now.places].sort((one, other) => one.number - other.number);
  const picked = now.places.find(({ id }) => id === chosen) ?? now.places[0];
  const [draft, setDraft] = useDraft(picked);
  const enter = (entry: Offered, photos: Blob[] = []): void => {
    queue.add(entry, photos);
    if (entry.kind === "round_begun") {
      setPage("place");
      setBeside("place");
      setChosen(inOrder[0]?.id ?? null);
    }
  };
  const pick = (id: string): void => {
    setChosen(id);
    setPage("place");
    setBeside("place");
  };
  const drawn = fit.frames.find((each) => each.frame === frameName) ?? fit.frames[0];
  const at = picked ? inOrder.findIndex(({ id }) => id === picked.id) : -1;
  const next = at >= 0 ? inOrder[(at + 1) % inOrder.length] : undefined;
  const hasRound = round !== undefined && round.closed === null;
  const shown = (which: Page): string => (page === which ? "" : "hidden lg:block");
  const view = (key: Key, width: number, high: number, isNear = false): ReactElement | null => {
    const seen = drawn?.views.find((each) => each.key === key);
    return drawn && seen && width > 0 ? (
      <Envelope
        frame={drawn}
        view={seen}
        places={now.places}
        picked={picked?.id}
        width={width}
        mostHeight={high}
        isNear={isNear}
        onPick={pick}
      />
    ) : null;
  };
  const place = picked && (
    <PlaceView
      key={picked.id}
      fit={fit}
      place={picked}
      draft={draft}
      buildId={build.id}
      hasRound={hasRound}
      onDraft={setDraft}
      onEnter={enter}
    />
  );
  const keep = (
    <div className="flex gap-2">
      <Button
        className="min-h-[64px] w-[96px] font-figure !text-[17px] lg:min-h-11"
        onClick={() => setChosen(inOrder[(at - 1 + inOrder.length) % inOrder.length]?.id ?? null)}
      >
        Back
      </Button>
      <Button
        look="main"
        className="min-h-[64px] min-w-0 flex-1 flex-col font-figure !text-[19px] leading-tight lg:min-h-11"
        onClick={() => {
          if (!picked) return;
          if (!hasRound) {
            setPage("round");
            setBeside("round");
            return;
          }
          enter(findingOf(picked, draft));
          setChosen(next?.id ?? null);
          window.scrollTo({ top: 0 });
        }}
      >
        {hasRound ? (
          <>
            <span>
              Keep{" "}
              {draft.touches
                ? "the touch"
                : gapWords({ touches: false, gap_mm: draft.gap }, units, system)}
            </span>
            {next && next !== picked && (
              <span className="text-[14px] font-medium">
                next: {next.number}, {next.name}
              </span>
            )}
          </>
        ) : (
          "Begin a round"
        )}
      </Button>
    </div>
  );
  const half = Math.max(0, size.width / 2 - 8);
  return (
    <>
      <BenchHead
        name={build.name}
        word={
          round ? `round ${round.number}, place ${at + 1} of ${inOrder.length}` : "no round yet"
        }
        parts={inOrder.map(({ id, state }) =>
          id === picked?.id
            ? "now"
            : state === "touches"
              ? "bad"
              : state === "not_looked" || state === "tight"
                ? "left"
                : "done",
        )}
        pages={PAGES}
        page={page}
        onPage={setPage}
      />
      <div className="flex min-h-0 flex-1 flex-col lg:flex-row">
        <div className="min-w-0 flex-1 lg:overflow-y-auto">
          <div className="hidden items-start justify-between gap-3 px-6 pt-4 lg:flex">
            <div>
              <h1 className="font-figure text-[22px] leading-tight font-semibold">
                {roundSentence(now)}
              </h1>
              <p className="text-[14px] text-ink-2">
                {inOrder.length} places
                {round ? ` · ${round.means_words}, car on its ${round.car_on}` : ""} · gaps in{" "}
                {system === "us" ? "inches" : "mm"} ·{" "}
                <FrameChoice name={frameName} onName={setFrameName} />
              </p>
            </div>
            <ReadOut name="fit" table={() => fitTable(now)} drawing={drawing} />
          </div>
          <div ref={frame} className={shown("place")}>
            <div ref={drawing} className="lg:flex lg:px-2">
              <div className="hidden lg:block lg:w-1/2">{view("side", half, HIGH)}</div>
              <div className="hidden lg:block lg:w-1/2">{view("front", half, HIGH)}</div>
              <div className="lg:hidden">
                {drawn && picked && view(bestView(drawn, picked.id), size.width, 226, true)}
              </div>
            </div>
          </div>
          <div className={`px-2 lg:px-6 ${shown("all")}`}>
            <p className="px-2 pt-3 font-figure text-[19px] font-semibold lg:hidden">
              {roundSentence(now)}
            </p>
            <div className="overflow-x-auto" tabIndex={0} aria-label="All places">
              <PlaceTable now={now} picked={picked?.id} onPick={pick} />
            </div>
            {inOrder.length === 0 && (
              <p className="py-3">
                No places yet: say on Car what is round the pan, or name a place by hand.
              </p>
            )}
            <p className="px-2 py-2 text-[13px] text-ink-2">
              Forecast: by the figures of the build, the car still. Trend: the gap in each round,
              what is wanted dashed.
            </p>
          </div>
          <div className={page === "place" ? "lg:hidden" : "hidden"}>{place}</div>
          <div className={page === "round" ? "lg:hidden" : "hidden"}>
            <RoundPage fit={fit} now={now} onEnter={enter} />
          </div>
          <div className="px-4 pt-1 pb-2 lg:px-6">
            <Away queue={queue} wordsOf={entryWords} />
          </div>
          {page === "place" && picked && (
            <div className="sticky bottom-[50px] z-[5] border-t border-ink bg-paper px-4 py-2 md:bottom-0 lg:hidden">
              {keep}
            </div>
          )}
        </div>
        <div className="hidden lg:flex">
          <InspectorTabs
            pages={[
              {
                key: "place",
                label: "Place",
                content: picked ? (
                  <>
                    {place}
                    <div className="px-4 pb-3">{keep}</div>
                  </>
                ) : (
                  <p className="p-4">No place is picked.</p>
                ),
              },
              {
                key: "round",
                label: round ? `Round ${round.number}` : "Round",
                content: <RoundPage fit={fit} now={now} onEnter={enter} />,
              },
            ]}
            shown={beside}
            onShow={setBeside}
          />
        </div>
      </div>
    </>
  );
}

function FrameChoice({
  name,
  onName,
}: {
  name: FrameName;
  onName: (name: FrameName) => void;
}): ReactElement {
  const other = name === "car" ? "engine" : "car";
  return (
    <>
      drawn {FRAMES[name]},{" "}
      <button type="button" className="underline" onClick={() => onName(other)}>
        {FRAMES[other]}
      </button>
    </>
  );
}

/** Rounds of offering up: what touches, what is tight, what was done about it. */
export function FitScreen(): ReactElement {
  const { build } = useBuildView();
  const session = useSession().data;
  const query = useFit(build);
  if (!query.data || !session)
    return (
      <Waiting
        error={query.error ? wordsOf(query.error) : null}
        what="the test fit"
        onRetry={() => void query.refetch()}
      />
    );
  return <TheFit stage={query.data} me={session.username} />;
}
