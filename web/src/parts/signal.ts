/** Sound and vibration: only where somebody allowed them. */

const KEYS = { sound: "bilge.sound", shake: "bilge.shake" } as const;
export type Signal = keyof typeof KEYS;

export const isAllowed = (which: Signal): boolean => localStorage.getItem(KEYS[which]) === "yes";

export const allow = (which: Signal, yes: boolean): void =>
  localStorage.setItem(KEYS[which], yes ? "yes" : "no");

const PITCH = 880; // [Hz]
const LONG = 0.35; // [s]

function beep(): void {
  const player = new AudioContext();
  const tone = player.createOscillator();
  const loud = player.createGain();
  tone.frequency.value = PITCH;
  loud.gain.setValueAtTime(0.25, player.currentTime);
  loud.gain.exponentialRampToValueAtTime(0.001, player.currentTime + LONG);
  tone.connect(loud).connect(player.destination);
  tone.start();
  tone.stop(player.currentTime + LONG);
  tone.onended = () => void player.close();
}

/** Says that something is over, or was taken. */
export function signal(kind: "over" | "taken"): void {
  if (kind === "over" && isAllowed("sound")) beep();
  if (isAllowed("shake") && "vibrate" in navigator)
    navigator.vibrate(kind === "over" ? [300, 150, 300] : 40);
}
