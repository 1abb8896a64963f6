/**
 * Words on a drawing keep off each other and on the sheet: each is drawn where it belongs, then
 * moved as little as it takes, the more important ones first.
 */
export interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

export interface Words {
  box: Box;
  /** 0 stays where it is, as long as that is on the sheet; then the smaller first. */
  rank: number;
  /** Rather left out than laid over others or over a heavy line. */
  mayGo: boolean;
}

/** By how much words were moved [px]; null where they are left out. */
export type Shift = readonly [number, number] | null;

const CLEAR = 2; // [px] between two
const REACHES = [10, 16, 24, 34, 46, 60, 78, 100, 130]; // [px], tried from near to far
const OVER_LINE = 26; // [px] that words are moved sooner than laid over a heavy line

const moved = (box: Box, [x, y]: readonly [number, number]): Box => ({
  left: box.left + x,
  top: box.top + y,
  right: box.right + x,
  bottom: box.bottom + y,
});

export const overlap = (a: Box, b: Box, clear = 0): number =>
  Math.max(0, Math.min(a.right, b.right) - Math.max(a.left, b.left) + clear) *
  Math.max(0, Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top) + clear);

/** The shortest way onto the sheet. */
function ontoSheet(box: Box, sheet: Box): readonly [number, number] {
  const along = (low: number, high: number, least: number, most: number): number =>
    low < least ? least - low : high > most ? Math.max(most - high, least - low) : 0;
  return [
    along(box.left, box.right, sheet.left, sheet.right),
    along(box.top, box.bottom, sheet.top, sheet.bottom),
  ];
}

function* ways(box: Box, sheet: Box): Generator<readonly [number, number]> {
  yield ontoSheet(box, sheet);
  for (const reach of REACHES)
    for (let k = 0; k < 16; k++) {
      const angle = (k * Math.PI) / 8;
      const way = [reach * Math.cos(angle), reach * Math.sin(angle)] as const;
      const [x, y] = ontoSheet(moved(box, way), sheet);
      yield [way[0] + x, way[1] + y];
    }
}

/** Where each goes. Heavy lines are kept free where that takes no long way. */
export function clearWords(words: readonly Words[], sheet: Box, lines: readonly Box[]): Shift[] {
  const shifts: Shift[] = words.map(() => null);
  const placed: Box[] = [];
  const order = words.map((_, index) => index);
  order.sort((a, b) => (words[a]?.rank ?? 0) - (words[b]?.rank ?? 0));
  for (const index of order) {
    const each = words[index];
    if (!each) continue;
    let best: {
      shift: readonly [number, number];
      cost: number;
      over: number;
      crosses: boolean;
    } | null = null;
    for (const shift of ways(each.box, sheet)) {
      const box = moved(each.box, shift);
      const over = placed.reduce((sum, other) => sum + overlap(box, other, CLEAR), 0);
      const crosses = lines.some((line) => overlap(box, line) > 0);
      const cost = Math.hypot(...shift) + (crosses ? OVER_LINE : 0) + 1000 * over;
      if (!best || cost < best.cost) best = { shift, cost, over, crosses };
      if (each.rank === 0 || cost === 0) break;
      // everything farther off costs more
      if (best.over === 0 && Math.hypot(...shift) > best.cost) break;
    }
    if (!best || (each.mayGo && (best.over > 0 || best.crosses))) continue;
    shifts[index] = best.shift;
    placed.push(moved(each.box, best.shift));
  }
  return shifts;
}
