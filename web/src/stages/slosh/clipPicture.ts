import { drawOn } from "../../parts/picture";

/** The words that go with a moment in a clip. */
export interface ClipWords {
  build: string;
  title: string;
  words: string;
  note: string;
}

const SCALE = 1.5;
const HEAD = 64; // [px] above the pictures
const FOOT = 34;
const MARGIN = 16;
const PATIENCE = 20_000; // [ms] for a moment to be painted

const token = (name: string): string =>
  getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim();

const nextPaint = (): Promise<void> =>
  new Promise((resolve) => {
    requestAnimationFrame(() => resolve());
  });

/** Waits until everything under an element shows the moment that its stamp begins with. */
export async function untilPainted(root: HTMLElement, timeS: number): Promise<void> {
  const until = performance.now() + PATIENCE;
  const isPainted = (): boolean => {
    const stamp = root.dataset.stamp ?? "";
    if (!stamp.startsWith(`${timeS.toFixed(3)} `)) return false;
    return [...root.querySelectorAll("canvas")].every((each) => each.dataset.painted === stamp);
  };
  while (!isPainted()) {
    if (performance.now() > until)
      throw new Error("The picture was not painted in time; keep this page in view and try again.");
    await nextPaint();
  }
}

/** Paints what an element shows, with its words, on a canvas that is used again and again. */
export function clipPainter(
  root: HTMLElement,
  told: () => ClipWords,
): () => Promise<HTMLCanvasElement> {
  const canvas = document.createElement("canvas");
  const box = root.getBoundingClientRect();
  const even = (length: number): number => 2 * Math.round((length * SCALE) / 2);
  canvas.width = even(box.width);
  canvas.height = even(HEAD + box.height + FOOT);
  return async () => {
    const context = canvas.getContext("2d");
    if (!context) throw new Error("This browser draws no pictures.");
    context.setTransform(SCALE, 0, 0, SCALE, 0, 0);
    context.fillStyle = token("paper");
    context.fillRect(0, 0, canvas.width, canvas.height);
    const write = (text: string, y: number, font: string, color: string): void => {
      context.font = font;
      context.fillStyle = token(color);
      context.textBaseline = "alphabetic";
      context.fillText(text, MARGIN, y, box.width - 2 * MARGIN);
    };
    const { build, title, words, note } = told();
    write(title, 28, '600 22px "Barlow Condensed"', "ink");
    write(`${build} · ${words}`, 50, '500 14px "Barlow Condensed"', "ink-2");
    write(note, HEAD + box.height + 22, "500 13px Barlow", "ink-2");
    const origin = root.getBoundingClientRect();
    for (const label of root.querySelectorAll("[data-label]")) {
      const place = label.getBoundingClientRect();
      context.font = '600 15px "Barlow Condensed"';
      context.fillStyle = token("ink");
      const [x, y] = [place.x - origin.x + MARGIN, HEAD + place.y - origin.y + 15];
      context.fillText(label.textContent, x, y, place.width - MARGIN);
    }
    for (const drawing of root.querySelectorAll<SVGSVGElement>("svg[role=img], svg[role=group]")) {
      const place = drawing.getBoundingClientRect();
      const scene = drawing.closest("[data-scene]")?.querySelector("canvas") ?? null;
      await drawOn(context, drawing, scene, place.x - origin.x, HEAD + place.y - origin.y);
    }
    return canvas;
  };
}
