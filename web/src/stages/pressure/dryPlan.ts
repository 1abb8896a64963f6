import type { PressureStage } from "../../api/pressure";
import type { Glass } from "../../drawing/GlassPipe";
import type { Point } from "../../drawing/geometry";

/** Where a dry sump is drawn: its tank where a wet one has its pan, the shallow pan beside it. */

export interface BoxOnSheet {
  x: number;
  y: number;
  width: number;
  height: number;
}

export interface DryPlan {
  tank: BoxOnSheet;
  pan: BoxOnSheet;
  /** From the tank to the pump: what it carries is that of the pump's inlet. */
  feed: Glass & { node: number };
  /** From the pan to the tank. */
  back: Glass;
  /** The middle of the scavenge pump's sign, on its way. */
  scavenge: Point;
  /** Where words beside the tank begin. */
  words: Point;
}

const TANK = { width: 72, least: 96, most: 190 };
const PAN = { width: 116, height: 22 };
const OVER = 22; // [px] of the tank's line over its lid
const UNDER = 16; // [px] of the way to the pump under its outlet

/** In the room between the row, the riser and the sheet's foot. */
export function dryPlan(
  layout: PressureStage["layout"],
  room: { left: number; right: number; top: number; bottom: number },
  pump: Point,
  pipeWide: number,
): DryPlan {
  const bottom = room.bottom - UNDER;
  const height = Math.min(TANK.most, Math.max(TANK.least, bottom - room.top - OVER));
  const tank = { x: room.left, y: bottom - height, width: TANK.width, height };
  const pan = {
    x: room.right + 34,
    y: room.bottom - PAN.height,
    width: PAN.width,
    height: PAN.height,
  };
  const outlet: Point = [tank.x + tank.width / 2, bottom];
  const rises = room.right - 24;
  const lid = tank.y - OVER;
  const low = bottom + UNDER;
  return {
    tank,
    pan,
    feed: {
      key: "from the tank",
      node: layout.inlet,
      line: [outlet, [outlet[0], low], [pump[0], low], [pump[0], pump[1] + 24]],
      width: pipeWide,
      airOn: "right",
    },
    back: {
      key: "to the tank",
      line: [
        [pan.x, pan.y + PAN.height / 2],
        [rises, pan.y + PAN.height / 2],
        [rises, lid],
        [outlet[0], lid],
        [outlet[0], tank.y],
      ],
      width: 11,
      airOn: "left",
    },
    scavenge: [rises, (pan.y + lid) / 2],
    words: [tank.x + tank.width + 14, tank.y + 34],
  };
}
