import { useState, type ReactElement } from "react";
import { useNavigate } from "react-router";
import { wordsOf } from "../../api/client";
import { useInvited, useJoin } from "../../api/people";
import { NameAndPassword } from "../../parts/NameAndPassword";
import { Notice } from "../../parts/Notice";

/** Joining a workshop by a link; its secret stands after the #, which no server ever logs. */
export function Join(): ReactElement {
  const [secret] = useState(() => window.location.hash.slice(1));
  const invited = useInvited(secret);
  const join = useJoin();
  const navigate = useNavigate();
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
            <NameAndPassword
              isNew
              act="Join"
              busy={join.isPending}
              error={join.error}
              onSubmit={(username, password) =>
                join.mutate(
                  { secret, username, password },
                  { onSuccess: () => void navigate("/", { replace: true }) },
                )
              }
            />
          </>
        )}
      </div>
    </main>
  );
}
