import { useRef, useState, type ReactElement, type RefObject } from "react";
import { wordsOf } from "../../api/client";
import { useFit, useSendOffered, type FitStage, type Offered } from "../../api/fit";
import { useSession } from "../../api/queries";
import { useBuildView } from "../../document/BuildContext";
import { Away } from "../../parts/Away";
import { useQueue } from "../../parts/useQueue";
import { BenchHead, type BenchPart } from "../../parts/BenchHead";
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
import { SayPlace } from "./SayPlace";
import { fitNow, type FitNow, type PlaceNow } from "./standing";
import { entryWords, gapWords, roundSentence } from "./words";

type Page = "place" | "all" | "round";
const PAGES: Readonly<Record<Page, string>> = { place: "Place", all: "All", round: "Round" };
const FRAMES = { car: "as it stands in the car", engine: "square to the engine" } as const;
type FrameName = keyof typeof FRAMES;

const HIGH = 300;

/** How far each place is, in the row of marks above. */
const PARTS = {
  touches: "bad",
  not_looked: "left",
  tight: "left",
  sound: "done",
  accepted: "done",
} as const satisfies Record<PlaceNow["state"], BenchPart>;

/** What is found at the place on the screen, until it is kept or another is picked. */
function useDraft(place: PlaceNow | undefined): [Draft, (draft: Draft) => void] {
  const [draft, setDraft] = useState<{ id: string; draft: Draft } | null>(null);
  const own = place && draft?.id === place.id ? draft.draft : place ? draftOf(place) : undefined;
  return [
    own ?? { gap: 0, touches: false, done: "" },
    (next) => setDraft({ id: place?.id ?? "", draft: next }),
  ];
}

/** The one thing to do at a place: keep what was found, and go to the next. */
function KeepButtons({
  place,
  next,
  draft,
  hasRound,
  onBack,
  onBegin,
  onKeep,
}: {
  place: PlaceNow;
  next: PlaceNow | undefined;
  draft: Draft;
  hasRound: boolean;
  onBack: () => void;
  onBegin: () => void;
  onKeep: (place: PlaceNow) => void;
}): ReactElement {
  const { units, system } = useSettings();
  return (
    <div className="flex gap-2">
      <Button
        className="min-h-[64px] w-[96px] font-figure !text-[17px] lg:min-h-11"
        onClick={onBack}
      >
        Back
      </Button>
      <Button
        look="main"
        className="min-h-[64px] min-w-0 flex-1 flex-col font-figure !text-[19px] leading-tight lg:min-h-11"
        onClick={() => {
          if (hasRound) onKeep(place);
          else onBegin();
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
            {next && next !== place && (
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
}

/** How the round stands, in a sentence, with what the drawing shows. */
function FitHead({
  now,
  frame,
  onFrame,
  drawing,
}: {
  now: FitNow;
  frame: FrameName;
  onFrame: (frame: FrameName) => void;
  drawing: RefObject<HTMLDivElement | null>;
}): ReactElement {
  const { system } = useSettings();
  const round = now.rounds.at(-1);
  return (
    <div className="hidden items-start justify-between gap-3 px-6 pt-4 lg:flex">
      <div>
        <h1 className="font-figure text-[22px] leading-tight font-semibold">
          {roundSentence(now)}
        </h1>
        <p className="text-[14px] text-ink-2">
          {now.places.length === 1 ? "1 place" : `${now.places.length} places`}
          {round ? ` · ${round.means_words}, car on its ${round.car_on}` : ""} · gaps in{" "}
          {system === "us" ? "inches" : "mm"} · <FrameChoice name={frame} onName={onFrame} />
        </p>
      </div>
      <ReadOut name="fit" table={() => fitTable(now)} drawing={drawing} />
    </div>
  );
}

/** All places with what was found in each round. */
function AllPlaces({
  now,
  picked,
  onPick,
}: {
  now: FitNow;
  picked: string | undefined;
  onPick: (id: string) => void;
}): ReactElement {
  return (
    <>
      <p className="px-2 pt-3 font-figure text-[19px] font-semibold lg:hidden">
        {roundSentence(now)}
      </p>
      <div className="overflow-x-auto" tabIndex={0} aria-label="All places">
        <PlaceTable now={now} picked={picked} onPick={onPick} />
      </div>
      {now.places.length === 0 && (
        <p className="py-3">
          No places yet: say on Car what is round the pan, or name a place by hand.
        </p>
      )}
      <p className="px-2 py-2 text-[13px] text-ink-2">
        Forecast: by the figures of the build, the car still. Trend: the gap in each round, what is
        wanted dashed.
      </p>
    </>
  );
}

function TheFit({ stage, me }: { stage: FitStage; me: string }): ReactElement {
  const { build } = useBuildView();
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
  const place = !picked ? (
    <NoPlace fit={fit} onEnter={enter} />
  ) : (
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
  const keep = picked && (
    <KeepButtons
      place={picked}
      next={next}
      draft={draft}
      hasRound={hasRound}
      onBack={() => setChosen(inOrder[(at - 1 + inOrder.length) % inOrder.length]?.id ?? null)}
      onBegin={() => {
        setPage("round");
        setBeside("round");
      }}
      onKeep={(place) => {
        enter(findingOf(place, draft));
        setChosen(next?.id ?? null);
        window.scrollTo({ top: 0 });
      }}
    />
  );
  const half = Math.max(0, size.width / 2 - 8);
  return (
    <>
      <BenchHead
        name={build.name}
        word={
          round ? `round ${round.number}, place ${at + 1} of ${inOrder.length}` : "no round yet"
        }
        parts={inOrder.map((place) => (place.id === picked?.id ? "now" : PARTS[place.state]))}
        pages={PAGES}
        page={page}
        onPage={setPage}
      />
      <div className="flex min-h-0 flex-1 flex-col lg:flex-row">
        <div className="min-w-0 flex-1 lg:overflow-y-auto">
          <FitHead now={now} frame={frameName} onFrame={setFrameName} drawing={drawing} />
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
            <AllPlaces now={now} picked={picked?.id} onPick={pick} />
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
                content: (
                  <>
                    {place}
                    {keep && <div className="px-4 pb-3">{keep}</div>}
                  </>
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

/** Where nothing is known to be near: the first place is named. */
function NoPlace({ fit, onEnter }: Parameters<typeof SayPlace>[0]): ReactElement {
  return (
    <div className="px-4 pt-3">
      <p className="pb-2">No place yet: name the first that is to be looked at.</p>
      <SayPlace fit={fit} onEnter={onEnter} />
    </div>
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
