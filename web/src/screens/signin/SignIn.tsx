import { useState, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import { useSignIn } from "../../api/queries";
import { Button } from "../../parts/Button";
import { Notice } from "../../parts/Notice";

const input = "mt-1 block h-10 w-full border border-ink bg-panel px-3 text-[16px] rounded-[2px]";

/** Name and password beside a pan in section. */
export function SignIn(): ReactElement {
  const signIn = useSignIn();
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
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
        <form
          onSubmit={(event) => {
            event.preventDefault();
            signIn.mutate({ username, password });
          }}
        >
          <label className="mb-3 block text-[14px]">
            Name
            <input
              className={input}
              name="username"
              autoComplete="username"
              required
              value={username}
              onChange={(event) => setUsername(event.target.value)}
            />
          </label>
          <label className="mb-5 block text-[14px]">
            Password
            <input
              className={input}
              name="password"
              type="password"
              autoComplete="current-password"
              required
              value={password}
              onChange={(event) => setPassword(event.target.value)}
            />
          </label>
          {signIn.error && (
            <div className="mb-4">
              <Notice kind="bad">{wordsOf(signIn.error)}</Notice>
            </div>
          )}
          <Button look="main" type="submit" disabled={signIn.isPending} className="h-10 w-full">
            {signIn.isPending ? "Signing in…" : "Sign in"}
          </Button>
        </form>
      </div>
    </main>
  );
}
