import { dayWords } from "../../parts/days";
import { useRef, useState, type ReactElement } from "react";
import { Link, useSearchParams } from "react-router";
import { wordsOf } from "../../api/client";
import {
  useBook,
  useSendBooked,
  type Book,
  type Booked,
  type BookStage,
  type Driven,
} from "../../api/book";
import { useSession } from "../../api/queries";
import { useBuildView } from "../../document/BuildContext";
import { isDrySump } from "../../document/circuit/circuit";
import { Away } from "../../parts/Away";
import { useQueue } from "../../parts/useQueue";
import { BenchHead } from "../../parts/BenchHead";
import { Button } from "../../parts/Button";
import { Mark } from "../../parts/Mark";
import { Notice, Waiting } from "../../parts/Notice";
import { ReadOut } from "../../parts/ReadOut";
import { useSettings } from "../../parts/settings";
import { lengthAs, temperatureWords, volumeAs, type System, type Units } from "../../parts/units";
import { BookFiles } from "./BookFiles";
import { bookTable } from "./bookTable";
import { DueList } from "./DueList";
import { HoldUp } from "./HoldUp";
import { NextChange } from "./NextChange";
import { OneSession } from "./OneSession";
import { PitWall } from "./PitWall";
import { SessionForm } from "./SessionForm";
import { StripDown } from "./StripDown";
import { Trends } from "./Trends";
import { WhatItSays } from "./WhatItSays";
import { entryWords } from "./words";

/** What of the address opens the pit wall: it stays over a reload. */
const PIT_WALL = "pit-wall";

type Page = "sessions" | "write" | "due";
const PAGES: Readonly<Record<Page, string>> = { sessions: "Sessions", write: "Write", due: "Due" };

/** The last session in a sentence: how far, how hot, what it used. */
function lastSentence(driven: Driven | undefined, units: Units, system: System): string {
  if (!driven) return "No session is written down yet";
  const { session, oil_used_l: used, hottest_c: hottest } = driven;
  const parts = [
    ...(session.laps === 0 ? [] : [`${session.laps} laps`]),
    ...(hottest === null ? [] : [`${temperatureWords(units, system, hottest)} at the hottest`]),
    ...(used === null
      ? []
      : [
          `${volumeAs(units, system, used).figure} ${volumeAs(units, system, used).unit} of oil used`,
        ]),
  ];
  return [`${dayWords(session.on)}, ${session.circuit}`, parts.join(", ")]
    .filter((words) => words !== "")
    .join(": ");
}

const countWords = ({ sessions }: Book): string =>
  sessions.length === 1 ? "1 session" : `${sessions.length} sessions`;

function Sessions({
  book,
  picked,
  onPick,
}: {
  book: Book;
  picked: string | null;
  onPick: (id: string) => void;
}): ReactElement {
  const { units, system } = useSettings();
  const head = "py-1 pl-3 last:pr-2 text-right font-normal whitespace-nowrap";
  const cell = "py-1.5 pl-3 last:pr-2 text-right font-figure whitespace-nowrap";
  return (
    <div className="overflow-x-auto" tabIndex={0} aria-label="All sessions">
      <table className="w-full text-[15px]">
        <thead>
          <tr className="border-b border-ink text-[13px] text-ink-2">
            <th scope="col" className="py-1 text-left font-normal">
              day
            </th>
            <th scope="col" className="py-1 pl-3 text-left font-normal">
              circuit
            </th>
            {[
              "state",
              "laps",
              "oil, hottest",
              "level before, after",
              "catch can",
              "oil used",
              "dips met, foreseen",
            ].map((words) => (
              <th key={words} scope="col" className={head}>
                {words}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {book.sessions.map((driven) => {
            const { session } = driven;
            const isPicked = session.id === picked;
            const level = (mm: number | null | undefined): string =>
              mm === null || mm === undefined ? "?" : lengthAs(units, system, mm).figure;
            const used = driven.oil_used_l;
            return (
              <tr
                key={session.id}
                data-session={session.id}
                className={`border-b border-hair ${isPicked ? "bg-ink text-paper" : ""}`}
              >
                <th scope="row" className="text-left font-normal">
                  <button
                    type="button"
                    aria-pressed={isPicked}
                    onClick={() => onPick(session.id)}
                    className="min-h-10 px-1 text-left font-semibold whitespace-nowrap underline decoration-dotted"
                  >
                    {dayWords(session.on)}
                  </button>
                </th>
                <td className="pl-3 lg:whitespace-nowrap">
                  {session.circuit}
                  {session.weather === "dry" ? "" : `, ${session.weather}`}
                </td>
                <td className={cell}>{driven.state}</td>
                <td className={cell}>{session.laps === 0 ? "" : session.laps}</td>
                <td className={cell}>
                  {driven.hottest_c === null
                    ? ""
                    : temperatureWords(units, system, driven.hottest_c)}
                </td>
                <td className={cell}>
                  {session.level_before_mm === null && session.level_after_mm === null
                    ? ""
                    : `${level(session.level_before_mm)} to ${level(session.level_after_mm)}`}
                </td>
                <td className={cell}>
                  {session.can_ml === null || session.can_ml === undefined
                    ? ""
                    : `${session.can_ml.toFixed(0)} ml`}
                </td>
                <td className={cell}>
                  {used === null
                    ? ""
                    : `${volumeAs(units, system, used).figure} ${volumeAs(units, system, used).unit}`}
                </td>
                <td className={cell}>
                  {driven.dips === null
                    ? ""
                    : driven.dips.has_forecast
                      ? `${driven.dips.met} met, ${driven.dips.foreseen} foreseen`
                      : `${driven.dips.met} met`}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

function TheBook({ stage, me }: { stage: BookStage; me: string }): ReactElement {
  const { book } = stage;
  const { build } = useBuildView();
  const { units, system } = useSettings();
  const queue = useQueue<Booked>(`book:${build.id}`, build.id, me, useSendBooked(build, system));
  const [page, setPage] = useState<Page>("sessions");
  const [chosen, setChosen] = useState<string | null>(null);
  const drawing = useRef<HTMLDivElement>(null);
  const [isWriting, setWriting] = useState(false);
  const [anew, setAnew] = useState<string | null>(null);
  const last = book.sessions[0];
  const picked = book.sessions.find(({ session }) => session.id === chosen) ?? last;
  const write = (entry: Booked, photos: Blob[] = []): void => queue.add(entry, photos);
  const leave = (): void => {
    setWriting(false);
    setAnew(null);
    setPage("sessions");
  };
  const form = (
    <SessionForm
      key={anew ?? "new"}
      session={book.sessions.find(({ session }) => session.id === anew)?.session ?? null}
      before={last?.session ?? null}
      isDry={isDrySump(build.document.circuit)}
      onKeep={(session, photos) => {
        write(session, photos);
        setChosen(session.id);
        leave();
      }}
      onLeave={leave}
    />
  );
  const due = (
    <>
      <DueList due={book.due} hours={book.hours} onWrite={write} />
      {book.next && <NextChange next={book.next} buildId={build.id} />}
    </>
  );
  const shown = (which: Page): string => (page === which ? "" : "hidden lg:block");
  return (
    <>
      <BenchHead
        name={build.name}
        word={`${book.hours} h, ${countWords(book)}`}
        parts={book.due.map(({ state }) =>
          state === "overdue" ? "bad" : state === "later" ? "done" : "left",
        )}
        pages={PAGES}
        page={page}
        onPage={setPage}
      />
      <div className="flex min-h-0 flex-1 flex-col lg:flex-row">
        <div className="min-w-0 flex-1 lg:overflow-y-auto">
          <div className={shown("sessions")}>
            <div className="flex items-start justify-between gap-3 px-4 pt-4 lg:px-6">
              <div>
                <h1 className="font-figure text-[22px] leading-tight font-semibold">
                  {lastSentence(last, units, system)}
                </h1>
                <p className="text-[14px] text-ink-2">
                  {countWords(book)}, {book.hours} h run in this book
                </p>
              </div>
              <span className="flex gap-2">
                <Link
                  to={`?${PIT_WALL}`}
                  className="inline-flex min-h-9 items-center border border-ink px-3 font-semibold whitespace-nowrap"
                >
                  Pit wall
                </Link>
                <span className="hidden lg:inline">
                  <Button
                    look="main"
                    className="min-h-9 whitespace-nowrap"
                    onClick={() => setWriting(true)}
                  >
                    New session
                  </Button>
                </span>
                <ReadOut name="track-book" table={() => bookTable(book)} drawing={drawing} />
              </span>
            </div>
            {book.several_changed && (
              <div className="px-4 pt-2 lg:px-6">
                <Notice kind="caution" title="More than one thing was changed before this session">
                  What it shows may have either cause: adjust one thing at a time.
                </Notice>
              </div>
            )}
            {book.sessions.length === 0 ? (
              <p className="flex items-start gap-2 px-4 py-4 lg:px-6">
                <Mark state="nothing" />
                <span>
                  Run it and write it down: levels before and after, what came out of the catch can,
                  how hot the oil was, what the driver says. What is due counts from here.
                </span>
              </p>
            ) : (
              <div className="px-4 py-2 lg:px-6">
                <Sessions
                  book={book}
                  picked={picked?.session.id ?? null}
                  onPick={(id) => setChosen(id)}
                />
              </div>
            )}
            {picked && (
              <OneSession
                key={picked.session.id}
                driven={picked}
                buildId={build.id}
                onAnew={() => {
                  setAnew(picked.session.id);
                  setWriting(true);
                  setPage("write");
                }}
                onStrike={() => write({ kind: "session_struck", id: picked.session.id })}
              />
            )}
            <WhatItSays hasLaps={book.sessions.some(({ dips }) => dips !== null)} />
            <div ref={drawing}>
              {book.trends.length > 0 && <Trends trends={book.trends} onWrite={write} />}
            </div>
            <HoldUp trials={book.hold_ups} onWrite={write} />
            <StripDown rows={stage.strip_down} buildId={build.id} />
            <BookFiles build={build} />
          </div>
          <div className={page === "write" ? "lg:hidden" : "hidden"}>{form}</div>
          <div className={page === "due" ? "lg:hidden" : "hidden"}>{due}</div>
          <div className="px-4 pt-1 pb-3 lg:px-6">
            <Away queue={queue} wordsOf={entryWords} />
          </div>
        </div>
        <aside
          aria-label={isWriting ? "Write" : "Due"}
          className="hidden border-l border-ink bg-panel lg:block lg:w-[352px] lg:shrink-0 lg:overflow-y-auto"
        >
          {isWriting ? form : due}
        </aside>
      </div>
    </>
  );
}

/** Sessions on the track, what they used, and what is due. */
export function TrackBookScreen(): ReactElement {
  const { build } = useBuildView();
  const session = useSession().data;
  const query = useBook(build, useSettings().system);
  const [params, setParams] = useSearchParams();
  if (params.has(PIT_WALL)) return <PitWall onLeave={() => setParams({})} />;
  if (!query.data || !session)
    return (
      <Waiting
        error={query.error ? wordsOf(query.error) : null}
        what="the track book"
        onRetry={() => void query.refetch()}
      />
    );
  return <TheBook stage={query.data} me={session.username} />;
}
