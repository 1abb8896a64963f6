import { momentWords } from "../../parts/days";
import { useState, type ReactElement, type ReactNode } from "react";
import { wordsOf } from "../../api/client";
import {
  useAccess,
  useChangePassword,
  useEndSignIn,
  useHandOver,
  useInvite,
  usePeople,
  useRemoveMember,
  useSignIns,
  useTakeBack,
  type People,
} from "../../api/people";
import { Button } from "../../parts/Button";
import { Dialog } from "../../parts/Dialog";
import { Notice, Waiting } from "../../parts/Notice";
import { Code } from "./Code";

function Part({ title, children }: { title: string; children: ReactNode }): ReactElement {
  return (
    <section className="border-b border-hair p-4 last:border-0">
      <h3 className="mb-2 font-figure text-[17px] font-semibold">{title}</h3>
      {children}
    </section>
  );
}

function Fault({ error }: { error: Error | null }): ReactElement | null {
  return error && <Notice kind="bad">{wordsOf(error)}</Notice>;
}

/** The address for a phone at the bench, and how the phone comes to trust it. */
function AtTheBench(): ReactElement | null {
  const { data: access } = useAccess();
  if (!access?.address) return null;
  const here = /\/\/(127\.|localhost)/.test(access.address);
  return (
    <Part title="On a phone at the bench">
      {here ? (
        <p>
          Bilge answers on this machine alone. Started with{" "}
          <code className="font-mono text-[13px]">./bilge start --lan</code> it serves the shop’s
          network, and this sheet shows a code for the phone’s camera.
        </p>
      ) : (
        <div className="flex flex-wrap gap-4">
          <Code rows={access.code_rows} words={`Code of ${access.address}`} />
          <div className="min-w-[220px] flex-1">
            <p className="font-figure text-[16px] font-semibold break-all">{access.address}</p>
            {access.has_authority && (
              <ol className="mt-2 list-decimal space-y-1 pl-5 text-[14px]">
                <li>
                  The phone warns at first: it does not know this shop’s certificate. Open{" "}
                  <a className="underline" href="/api/session/authority" download>
                    the shop’s authority
                  </a>{" "}
                  on the phone and take it in its security settings as a CA certificate.
                </li>
                <li>On some phones it must then be switched to trusted as well.</li>
                <li>It vouches for private addresses and this machine, for nothing else.</li>
              </ol>
            )}
          </div>
        </div>
      )}
    </Part>
  );
}

function Invitations({ people }: { people: People }): ReactElement {
  const invite = useInvite();
  const takeBack = useTakeBack();
  const link = invite.data ? `${window.location.origin}/join#${invite.data.secret}` : null;
  return (
    <div className="mt-3">
      <Button disabled={invite.isPending} onClick={() => invite.mutate()}>
        Invite somebody
      </Button>
      {link && (
        <div className="mt-2">
          <label className="text-[14px] text-ink-2">
            Pass this link on. It lets one person in, once, within a week, and is shown only now.
            <input
              readOnly
              value={link}
              aria-label="Link of the invitation"
              onFocus={(event) => event.target.select()}
              className="mt-1 block h-9 w-full border border-ink bg-panel px-2 font-figure text-ink"
            />
          </label>
        </div>
      )}
      <ul className="mt-2">
        {people.invitations.map((each) => (
          <li key={each.id} className="flex items-baseline gap-3 text-[14px]">
            <span>an open invitation, until {momentWords(each.expires_at)}</span>
            <button
              type="button"
              className="underline"
              disabled={takeBack.isPending}
              onClick={() => takeBack.mutate(each.id)}
            >
              take back
            </button>
          </li>
        ))}
      </ul>
      <Fault error={invite.error ?? takeBack.error} />
    </div>
  );
}

type Asked = { id: number; act: "remove" | "hand over" } | null;

function Members(): ReactElement {
  const people = usePeople();
  const remove = useRemoveMember();
  const handOver = useHandOver();
  const [asked, setAsked] = useState<Asked>(null);
  if (!people.data)
    return (
      <Waiting
        error={people.error ? wordsOf(people.error) : null}
        what="the people"
        onRetry={() => void people.refetch()}
      />
    );
  const act = (): void => {
    if (asked?.act === "remove") remove.mutate(asked.id);
    if (asked?.act === "hand over") handOver.mutate(asked.id);
    setAsked(null);
  };
  return (
    <Part title={people.data.workshop}>
      <ul>
        {people.data.members.map((each) => (
          <li
            key={each.id}
            className="flex flex-wrap items-baseline gap-x-3 border-b border-hair py-1.5"
          >
            <span className="font-medium">{each.username}</span>
            <span className="flex-1 text-[14px] text-ink-2">
              {[
                each.is_you && "you",
                each.is_owner && "owner",
                each.seen_at && `seen ${momentWords(each.seen_at)}`,
              ]
                .filter(Boolean)
                .join(" · ")}
            </span>
            {people.data.you_own_it && !each.is_you && asked?.id !== each.id && (
              <>
                {(["hand over", "remove"] as const).map((what) => (
                  <button
                    key={what}
                    type="button"
                    className="text-[14px] underline"
                    onClick={() => setAsked({ id: each.id, act: what })}
                  >
                    {what}
                  </button>
                ))}
              </>
            )}
            {asked?.id === each.id && (
              <span className="flex w-full items-center gap-2 py-1 text-[14px]">
                {asked.act === "remove"
                  ? `${each.username} is signed out and comes in no more; the history keeps the name.`
                  : `${each.username} then invites, removes and hands over, and you do not.`}
                <Button look="bad" onClick={act}>
                  {asked.act === "remove" ? "Remove" : "Hand over"}
                </Button>
                <Button onClick={() => setAsked(null)}>Leave it</Button>
              </span>
            )}
          </li>
        ))}
      </ul>
      <Fault error={remove.error ?? handOver.error} />
      {people.data.you_own_it && <Invitations people={people.data} />}
    </Part>
  );
}

const input = "mt-1 block h-9 w-full border border-ink bg-panel px-2 text-ink";

function ChangePassword(): ReactElement {
  const change = useChangePassword();
  const [current, setCurrent] = useState("");
  const [wanted, setWanted] = useState("");
  return (
    <Part title="Your password">
      <form
        className="flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          change.mutate(
            { current, new: wanted },
            {
              onSuccess: () => {
                setCurrent("");
                setWanted("");
              },
            },
          );
        }}
      >
        <label className="min-w-[150px] flex-1 text-[14px] text-ink-2">
          The present one
          <input
            type="password"
            autoComplete="current-password"
            required
            value={current}
            onChange={(event) => setCurrent(event.target.value)}
            className={input}
          />
        </label>
        <label className="min-w-[150px] flex-1 text-[14px] text-ink-2">
          The new one
          <input
            type="password"
            autoComplete="new-password"
            required
            value={wanted}
            onChange={(event) => setWanted(event.target.value)}
            className={input}
          />
        </label>
        <Button type="submit" className="h-9" disabled={change.isPending}>
          Change it
        </Button>
      </form>
      {change.isSuccess && (
        <p role="status" className="mt-2 text-[14px]">
          Changed. Your other browsers are signed out.
        </p>
      )}
      <Fault error={change.error} />
    </Part>
  );
}

function SignedInAt(): ReactElement {
  const rows = useSignIns();
  const end = useEndSignIn();
  return (
    <Part title="Where you are signed in">
      <ul>
        {rows.data?.map((row) => (
          <li key={row.id} className="flex flex-wrap items-baseline gap-x-3 py-1 text-[14px]">
            <span className="font-medium">{row.browser}</span>
            <span className="flex-1 text-ink-2">
              {row.address}, last seen {momentWords(row.seen_at)}
              {row.is_this && " · this one"}
            </span>
            {!row.is_this && (
              <button
                type="button"
                className="underline"
                disabled={end.isPending}
                onClick={() => end.mutate(row.id)}
              >
                sign out
              </button>
            )}
          </li>
        ))}
      </ul>
      <Fault error={rows.error ?? end.error} />
    </Part>
  );
}

/** The account: the phone's way in, the people of the workshop, password and sign-ins. */
export function AccountSheet({ onClose }: { onClose: () => void }): ReactElement {
  return (
    <Dialog title="Account and workshop" wide onClose={onClose}>
      <Members />
      <AtTheBench />
      <ChangePassword />
      <SignedInAt />
    </Dialog>
  );
}
