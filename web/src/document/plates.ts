import type { BuildDocument } from "../api/queries";
import { depthsOf } from "./edges";
import { NOT_GIVEN } from "./ids";

type Pan = BuildDocument["pan"];
export type Plate = NonNullable<Pan["plates"]>[number];
export type VerticalPlate = Extract<Plate, { kind: "vertical" }>;
export type HorizontalPlate = Extract<Plate, { kind: "horizontal" }>;
export type Opening = NonNullable<VerticalPlate["openings"]>[number];
export type Gate = NonNullable<Opening["gate"]>;

interface Room {
  rear: number;
  front: number;
  right: number;
  left: number;
  depth: number;
}

/** The box in plan of the zone that the mouth is in, and its depth there at the least. */
export function roomAtMouth({ pan, pickup }: BuildDocument): Room {
  const boxes = pan.zones.map((zone) => {
    const xs = zone.outline_mm.map(([x]) => x);
    const ys = zone.outline_mm.map(([, y]) => y);
    return {
      rear: Math.min(...xs),
      front: Math.max(...xs),
      right: Math.min(...ys),
      left: Math.max(...ys),
      depth: depthsOf(zone.floor).least,
    };
  });
  const around = boxes.find(
    (box) =>
      box.rear <= pickup.x_mm &&
      pickup.x_mm <= box.front &&
      box.right <= pickup.y_mm &&
      pickup.y_mm <= box.left,
  );
  return around ?? boxes[0] ?? { rear: 0, front: 100, right: -50, left: 50, depth: 100 };
}

function freeName(plates: readonly Plate[], letter: string): string {
  const taken = new Set(plates.map(({ name }) => name));
  let number = 1;
  while (taken.has(`${letter}${number}`)) number += 1;
  return `${letter}${number}`;
}

/** A plate beside the mouth to be given its real size: across the engine, along it, or level. */
export function newPlate(document: BuildDocument, way: "across" | "along" | "level"): Plate {
  const room = roomAtMouth(document);
  const { x_mm: x, y_mm: y } = document.pickup;
  const plates = document.pan.plates;
  const top_depth_mm = Math.round(room.depth / 2);
  if (way === "level")
    return {
      kind: "horizontal",
      id: NOT_GIVEN,
      name: freeName(plates, "lid "),
      outline_mm: [
        [room.rear, room.right],
        [room.front, room.right],
        [room.front, room.left],
        [room.rear, room.left],
      ],
      depth_mm: top_depth_mm,
      role: "baffle",
      open_pct: 0,
      openings: [{ id: NOT_GIVEN, name: "pickup", x_mm: x, y_mm: y, length_mm: 60, width_mm: 60 }],
    };
  const at =
    way === "across"
      ? Math.max(room.rear + 5, x - 70)
      : y - room.right > room.left - y
        ? Math.max(room.right + 5, y - 60)
        : Math.min(room.left - 5, y + 60);
  return {
    kind: "vertical",
    id: NOT_GIVEN,
    name: freeName(plates, "P"),
    from_mm: way === "across" ? [at, room.right] : [room.rear, at],
    to_mm: way === "across" ? [at, room.left] : [room.front, at],
    top_depth_mm,
    bottom_depth_mm: null,
    openings: [],
  };
}

/** An opening in the middle of a plate, low down, with a gate that swings toward the mouth. */
export function newOpening(
  plate: VerticalPlate,
  document: BuildDocument,
  openings: readonly Opening[],
  side: Gate["swings"],
): Opening {
  const length = Math.hypot(plate.to_mm[0] - plate.from_mm[0], plate.to_mm[1] - plate.from_mm[1]);
  const { depth } = roomAtMouth(document);
  const width = Math.min(50, Math.round(length / 3));
  const height = Math.max(5, Math.min(30, Math.round((depth - plate.top_depth_mm) / 2)));
  return {
    id: NOT_GIVEN,
    name: `${plate.name}-${openings.length + 1}`,
    from_start_mm: Math.round((length - width) / 2),
    width_mm: width,
    lower_depth_mm: depth - 2,
    height_mm: height,
    gate: { id: NOT_GIVEN, swings: side, leaf: "rubber", leak_pct: 4 },
  };
}
