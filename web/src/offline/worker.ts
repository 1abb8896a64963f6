import { useEffect, useState } from "react";

/** Whether this page opens when nothing answers: yes, no, or not known yet. */
export type OpensAway = "yes" | "no" | "asking";

const PATH = "/worker.js";

/**
 * Fetches what the page needs to open without the workshop's computer. A browser does so only where
 * it trusts the certificate, or on the computer itself.
 */
export function useOpensAway(): OpensAway {
  const can =
    typeof window !== "undefined" && window.isSecureContext && "serviceWorker" in navigator;
  const [state, setState] = useState<OpensAway>(can ? "asking" : "no");
  useEffect(() => {
    if (!can) return;
    navigator.serviceWorker
      .register(PATH)
      .then(() => navigator.serviceWorker.ready)
      .then(() => setState("yes"))
      .catch(() => setState("no"));
  }, [can]);
  return state;
}

/**
 * Whether the workshop's computer has had a newer Bilge since this page was opened: the worker that
 * opened it from what it had kept gave way to a newer one meanwhile.
 */
export function useRenewed(): boolean {
  const [renewed, setRenewed] = useState(false);
  useEffect(() => {
    const worker = "serviceWorker" in navigator ? navigator.serviceWorker : undefined;
    if (!worker?.controller) return; // none opened it: it is as new as the server
    const tell = (): void => setRenewed(true);
    worker.addEventListener("controllerchange", tell);
    return () => worker.removeEventListener("controllerchange", tell);
  }, []);
  return renewed;
}

const KEPT = "bench";

/**
 * Keeps the newest answer for when nothing answers: what came back from sending is newer than what
 * was asked for last.
 */
export async function keepAnswer(path: string, body: unknown): Promise<void> {
  if (!("caches" in window)) return;
  const cache = await caches.open(KEPT);
  if ((await cache.match(path)) === undefined) return; // no worker keeps it here
  const type = { headers: { "Content-Type": "application/json" } };
  await cache.put(path, new Response(JSON.stringify(body), type));
}

/** Forgets what was answered, when somebody signs out. What was entered and not sent stays. */
export async function forgetAnswers(): Promise<void> {
  if ("caches" in window) await caches.delete(KEPT);
}
