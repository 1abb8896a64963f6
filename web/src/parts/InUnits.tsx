import { bound, inUnits } from "./bound";
import { useSettings } from "./settings";

/** How the server's words are told: in the units shown, no figure parted from its unit. */
export function useSay(): (words: string) => string {
  const { units, system } = useSettings();
  return (words) => bound(inUnits(words, units, system));
}

/** The server's words as they are told. */
export function InUnits({ words }: { words: string }): string {
  return useSay()(words);
}
