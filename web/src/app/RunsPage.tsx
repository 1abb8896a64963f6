import type { ReactElement } from "react";
import { Link, useNavigate } from "react-router";
import { useSignOut, type Session } from "../api/queries";
import { RunList } from "../pages/runs/Runs";
import { HOME } from "./registry";
import { Tools } from "./Tools";

/** The workshop's runs under a head of their own. */
export function RunsPage({ session }: { session: Session }): ReactElement {
  const signOut = useSignOut();
  const navigate = useNavigate();
  return (
    <div className="flex min-h-full flex-col">
      <header className="flex h-20 border-b-2 border-ink bg-panel">
        <div className="flex flex-1 flex-col justify-center px-4">
          <Link to="/" className="font-figure text-[26px] leading-8 font-bold">
            Bilge
          </Link>
          <p className="font-figure text-[13px] text-ink-2">{session.workshop}</p>
        </div>
        <Tools session={session} onSignOut={() => signOut.mutate()} />
      </header>
      <main className="flex-1">
        <RunList onOpen={(id) => void navigate(`/builds/${id}/${HOME}`)} />
      </main>
    </div>
  );
}
