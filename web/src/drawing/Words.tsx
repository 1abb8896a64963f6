import {
  useEffect,
  useLayoutEffect,
  type ReactElement,
  type RefObject,
  type SVGProps,
} from "react";
import { clearWords, type Box } from "./clearWords";
import type { Point } from "./geometry";

/** What goes first when there is no room for all. */
export const RANK = { title: 0, dimension: 1, gap: 2, part: 3, name: 4 } as const;

/** Round words on a drawing that lines may run behind. */
export const HALO = { stroke: "var(--paper)", strokeWidth: "4", paintOrder: "stroke" } as const;

const EDGE = 3; // [px] that words keep off the sheet's edge
const HEAVY = 2; // [px] of a line to each side
const LED = 16; // [px] beyond which a line leads from words to what they name

/** Words on a drawing, moved clear of others by `useClearWords` of the sheet they are on. */
export function Words({
  rank,
  mayGo = false,
  anchor,
  children,
  ...text
}: SVGProps<SVGTextElement> & {
  rank: keyof typeof RANK;
  mayGo?: boolean;
  /** What they name, to which a line leads from afar. */
  anchor?: Point;
}): ReactElement {
  return (
    <g data-words={RANK[rank]} data-may-go={mayGo || undefined}>
      {anchor && (
        <path data-leader={anchor.join(" ")} stroke="var(--ink-2)" strokeWidth="0.9" fill="none" />
      )}
      <text {...text}>{children}</text>
    </g>
  );
}

const boxIn = (element: Element, sheet: DOMRect): Box => {
  const found = element.getBoundingClientRect();
  return {
    left: found.left - sheet.left,
    top: found.top - sheet.top,
    right: found.right - sheet.left,
    bottom: found.bottom - sheet.top,
  };
};

function lead(group: Element, box: Box, [x, y]: readonly [number, number]): void {
  const line = group.querySelector("[data-leader]");
  if (!line) return;
  const [toX = 0, toY = 0] = (line.getAttribute("data-leader") ?? "").split(" ").map(Number);
  const fromX = Math.min(Math.max(toX, box.left + x), box.right + x);
  const fromY = Math.min(Math.max(toY, box.top + y), box.bottom + y);
  // drawn in the moved group's own coordinates
  const far = Math.hypot(x, y) > LED && Math.hypot(toX - fromX, toY - fromY) > 6;
  if (far) line.setAttribute("d", `M${fromX - x} ${fromY - y}L${toX - x} ${toY - y}`);
  else line.removeAttribute("d");
}

function settle(svg: SVGSVGElement): void {
  const groups = [...svg.querySelectorAll<SVGGElement>("g[data-words]")];
  for (const group of groups) {
    group.removeAttribute("transform");
    group.removeAttribute("visibility");
  }
  const sheet = svg.getBoundingClientRect();
  if (sheet.width === 0) return;
  const words = groups.map((group) => ({
    box: boxIn(group.querySelector("text") ?? group, sheet),
    rank: Number(group.dataset["words"]),
    mayGo: group.dataset["mayGo"] !== undefined,
  }));
  const lines = [...svg.querySelectorAll("[data-keep-free]")].map((each) => {
    const { left, top, right, bottom } = boxIn(each, sheet);
    return { left: left - HEAVY, top: top - HEAVY, right: right + HEAVY, bottom: bottom + HEAVY };
  });
  const room = { left: EDGE, top: EDGE, right: sheet.width - EDGE, bottom: sheet.height - EDGE };
  clearWords(words, room, lines).forEach((shift, index) => {
    const [group, each] = [groups[index], words[index]];
    if (!group || !each) return;
    if (shift === null) group.setAttribute("visibility", "hidden");
    else if (shift[0] !== 0 || shift[1] !== 0)
      group.setAttribute("transform", `translate(${shift[0].toFixed(1)} ${shift[1].toFixed(1)})`);
    lead(group, each.box, shift ?? [0, 0]);
  });
}

/** What the words say and where they are drawn: nothing is measured again while that stands. */
function fingerprint(svg: SVGSVGElement): string {
  const parts = [`${svg.getAttribute("width")} ${svg.getAttribute("height")}`];
  for (const text of svg.querySelectorAll("g[data-words] > text"))
    parts.push(
      `${text.textContent} ${text.getAttribute("x")} ${text.getAttribute("y")} ${text.getAttribute("transform")}`,
    );
  return parts.join("|");
}

const settled = new WeakMap<SVGSVGElement, string>();

/** Moves the words of a drawing clear of each other, after each time that it is drawn. */
export function useClearWords(svg: RefObject<SVGSVGElement | null>): void {
  useLayoutEffect(() => {
    const drawn = svg.current;
    if (!drawn || typeof drawn.getBoundingClientRect !== "function") return;
    const now = fingerprint(drawn);
    if (settled.get(drawn) === now) return;
    settled.set(drawn, now);
    settle(drawn);
  });
  useEffect(() => {
    // the drawing's own letters may come later than the drawing
    const fonts = "fonts" in document ? document.fonts : null;
    void fonts?.ready.then(() => {
      if (svg.current) settle(svg.current);
    });
  }, [svg]);
}
