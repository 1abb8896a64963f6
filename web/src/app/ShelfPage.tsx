import type { ReactElement } from "react";
import { Link, useNavigate } from "react-router";
import { useSignOut, type Session } from "../api/queries";
import { Shelf } from "../pages/shelf/Shelf";
import { Tools } from "./Tools";

/** The shelf under a head of its own. */
export function ShelfPage({ session }: { session: Session }): ReactElement {
  const signOut = useSignOut();
  const navigate = useNavigate();
  return (
    <div className="flex min-h-full flex-col">
      <header className="flex h-20 border-b-2 border-ink bg-panel">
        <div className="flex flex-1 flex-col justify-center px-4">
          <p className="font-figure text-[26px] leading-8 font-bold">Bilge</p>
          <p className="font-figure text-[13px] text-ink-2">{session.workshop}</p>
        </div>
        <Link to="/runs" className="self-center px-4 underline">
          Runs
        </Link>
        <Tools session={session} onSignOut={() => signOut.mutate()} />
      </header>
      <main className="flex-1">
        <Shelf onOpen={(id, stage) => void navigate(`/builds/${id}/${stage}`)} />
      </main>
    </div>
  );
}
