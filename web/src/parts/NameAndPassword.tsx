import { useState, type ReactElement } from "react";
import { wordsOf } from "../api/client";
import { Button } from "./Button";
import { Notice } from "./Notice";

const input = "mt-1 block h-10 w-full border border-ink bg-panel px-3 text-[16px] rounded-[2px]";

/** The two fields by which somebody comes in. */
export function NameAndPassword({
  isNew,
  act,
  busy,
  error,
  onSubmit,
}: {
  /** Whether the password is chosen here. */
  isNew: boolean;
  act: string;
  busy: boolean;
  error: Error | null;
  onSubmit: (username: string, password: string) => void;
}): ReactElement {
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        onSubmit(username, password);
      }}
    >
      <label className="mb-3 block text-[14px]">
        Name
        <input
          className={input}
          name="username"
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
          name="password"
          type="password"
          autoComplete={isNew ? "new-password" : "current-password"}
          required
          value={password}
          onChange={(event) => setPassword(event.target.value)}
        />
      </label>
      {error && (
        <div className="mb-4">
          <Notice kind="bad">{wordsOf(error)}</Notice>
        </div>
      )}
      <Button look="main" type="submit" disabled={busy} className="h-10 w-full">
        {act}
      </Button>
    </form>
  );
}
