import { useState, type ReactElement } from "react";
import { useNavigate } from "react-router";
import { wordsOf } from "../../api/client";
import { useInvited, useJoin } from "../../api/people";
import { Button } from "../../parts/Button";
import { Notice } from "../../parts/Notice";

const input = "mt-1 block h-10 w-full border border-ink bg-panel px-3 text-[16px]";

/** Joining a workshop by a link; its secret stands after the #, which no server ever logs. */
export function Join(): ReactElement {
  const [secret] = useState(() => window.location.hash.slice(1));
  const invited = useInvited(secret);
  const join = useJoin();
  const navigate = useNavigate();
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  return (
    <main className="grid min-h-full place-items-center p-4">
      <div className="w-full max-w-[360px]">
        <h1 className="font-figure text-[28px] leading-8 font-bold">Bilge</h1>
        {invited.error && (
          <div className="mt-4">
            <Notice kind="bad">{wordsOf(invited.error)}</Notice>
          </div>
        )}
        {invited.data && (
          <>
            <p className="mt-2 mb-5">
              {invited.data.invited_by} invites you to <strong>{invited.data.workshop}</strong>.
              Choose a name and a password of your own.
            </p>
            <form
              onSubmit={(event) => {
                event.preventDefault();
                join.mutate(
                  { secret, username, password },
                  { onSuccess: () => void navigate("/", { replace: true }) },
                );
              }}
            >
              <label className="mb-3 block text-[14px]">
                Name
                <input
                  className={input}
                  autoComplete="username"
                  required
                  maxLength={150}
                  value={username}
                  onChange={(event) => setUsername(event.target.value)}
                />
              </label>
              <label className="mb-5 block text-[14px]">
                Password
                <input
                  className={input}
                  type="password"
                  autoComplete="new-password"
                  required
                  value={password}
                  onChange={(event) => setPassword(event.target.value)}
                />
              </label>
              {join.error && (
                <div className="mb-4">
                  <Notice kind="bad">{wordsOf(join.error)}</Notice>
                </div>
              )}
              <Button look="main" type="submit" disabled={join.isPending} className="h-10 w-full">
                Join
              </Button>
            </form>
          </>
        )}
      </div>
    </main>
  );
}
