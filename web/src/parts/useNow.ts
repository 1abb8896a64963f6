import { useEffect, useState } from "react";

/** The time, told anew every so often [ms]; a page that slept knows it at once when it wakes. */
export function useNow(every = 1000): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const tell = (): void => setNow(Date.now());
    const timer = window.setInterval(tell, every);
    document.addEventListener("visibilitychange", tell);
    return () => {
      window.clearInterval(timer);
      document.removeEventListener("visibilitychange", tell);
    };
  }, [every]);
  return now;
}
