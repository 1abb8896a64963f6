import type { ReactElement } from "react";
import { useSignIn } from "../../api/queries";
import { NameAndPassword } from "../../parts/NameAndPassword";

/** Name and password beside a pan in section. */
export function SignIn(): ReactElement {
  const signIn = useSignIn();
  return (
    <main className="grid min-h-full place-items-center p-4">
      <div className="w-full max-w-[360px]">
        <svg viewBox="0 0 360 150" aria-hidden="true" className="mb-6 w-full">
          <path d="M30 40 60 40 60 70 200 78 232 128 330 128 330 40" fill="none" />
          <path d="M156 75.4 200 78 232 128 330 128V40z" fill="var(--oil)" />
          <path d="M156 75.4 330 40" stroke="var(--oil-deep)" strokeWidth="2" />
          <path
            d="M20 30H44V62Q44 68 50 68L194 82 226 134H338V30H352"
            fill="none"
            stroke="var(--ink)"
            strokeWidth="3"
          />
          <path
            d="M240 120h40l-13-24V14h-14v82z"
            fill="var(--paper)"
            stroke="var(--ink)"
            strokeWidth="2"
          />
        </svg>
        <h1 className="font-figure text-[28px] leading-8 font-bold">Bilge</h1>
        <p className="mb-6 text-ink-2">When, where and for how long the oil pickup runs dry.</p>
        <NameAndPassword
          isNew={false}
          act={signIn.isPending ? "Signing in…" : "Sign in"}
          busy={signIn.isPending}
          error={signIn.error}
          onSubmit={(username, password) => signIn.mutate({ username, password })}
        />
      </div>
    </main>
  );
}
