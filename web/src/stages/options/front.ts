import type { OptionRow, Options } from "../../api/options";

/** What dry time is drawn against. */
export type Against = "cost" | "hours" | "ground";

export const AGAINST: Record<Against, { label: string; axis: string }> = {
  cost: { label: "cost", axis: "parts, $" },
  hours: { label: "hours", axis: "hours in the own workshop" },
  ground: { label: "ground", axis: "ground clearance lost, mm" },
};

/** A remedy on the plot: what it takes, and the dry time that is left. */
export interface Point {
  key: string;
  letter: string;
  title: string;
  takes: number;
  dry: number;
  onFront: boolean;
  holds: boolean;
}

function takes(row: OptionRow, options: Options, against: Against): number | null {
  if (!row.needs) return null;
  if (against === "cost") return row.needs.cost;
  if (against === "hours") return row.needs.hours;
  if (row.ground_mm === null || options.base_ground_mm === null) return null;
  return Math.max(0, options.base_ground_mm - row.ground_mm);
}

/** Keys that nothing cheaper matches, by more dry time than `scatter` [s]. */
export function frontOf(points: readonly Omit<Point, "onFront">[], scatter: number): Set<string> {
  const kept = new Set<string>();
  let least = Infinity;
  for (const point of [...points].sort((a, b) => a.takes - b.takes || a.dry - b.dry))
    if (point.dry < least - scatter) {
      kept.add(point.key);
      least = point.dry;
    }
  return kept;
}

/** The remedies that have both figures. */
export function pointsOf(options: Options, against: Against): Point[] {
  const points = options.rows.flatMap((row) => {
    const takesOf = takes(row, options, against);
    const dry = row.standing.dry_s;
    return takesOf === null || dry === null
      ? []
      : [
          {
            key: row.key,
            letter: row.letter,
            title: row.title,
            takes: takesOf,
            dry,
            holds: row.standing.state === "holds",
          },
        ];
  });
  const kept = frontOf(points, options.scatter_s);
  return points.map((point) => ({ ...point, onFront: kept.has(point.key) }));
}

/** Along the axis, 0 to 1: money grows by root, so that cheap ones are told apart. */
export const along = (value: number, most: number, against: Against): number =>
  most <= 0 ? 0 : against === "cost" ? Math.sqrt(value / most) : value / most;

export interface Spot {
  x: number;
  y: number;
}

/** Where a mark's letter stands; null: there is no room for it, and a dot marks the place. */
export type Lettered = Spot | null;

/**
 * Letters for marks: the first ones always, moved as little as it takes; of the rest only those
 * that can stand where they belong.
 */
export function lettered(
  wanted: readonly Spot[],
  always: number,
  size: number,
  room: { width: number; height: number },
): Lettered[] {
  const placed: Spot[] = keptApart(wanted.slice(0, always), size, room);
  const rest = wanted.slice(always).map((spot): Lettered => {
    const [found] = keptApart([spot], size, room);
    const isFree =
      found &&
      placed.every(
        (other) => Math.abs(other.x - found.x) >= size || Math.abs(other.y - found.y) >= size,
      );
    if (!isFree) return null;
    placed.push(found);
    return found;
  });
  return [...placed.slice(0, always), ...rest];
}

/**
 * Marks moved as little as it takes for none to lie on another; in order, the first ones stay. All
 * stay in the room.
 */
export function keptApart(
  wanted: readonly Spot[],
  size: number,
  room: { width: number; height: number },
): Spot[] {
  const placed: Spot[] = [];
  const fits = ({ x, y }: Spot): boolean =>
    x >= size / 2 &&
    x <= room.width - size / 2 &&
    y >= size / 2 &&
    y <= room.height - size / 2 &&
    placed.every((other) => Math.abs(other.x - x) >= size || Math.abs(other.y - y) >= size);
  for (const { x, y } of wanted) {
    const start = {
      x: Math.min(Math.max(x, size / 2), room.width - size / 2),
      y: Math.min(Math.max(y, size / 2), room.height - size / 2),
    };
    let found: Spot | null = fits(start) ? start : null;
    for (let reach = 4; found === null && reach < 2 * room.width; reach += 4)
      for (let turn = 0; turn < 24 && found === null; turn++) {
        const angle = (turn * Math.PI) / 12;
        const spot = {
          x: start.x + reach * Math.cos(angle),
          y: start.y + reach * Math.sin(angle),
        };
        if (fits(spot)) found = spot;
      }
    placed.push(found ?? start);
  }
  return placed;
}
