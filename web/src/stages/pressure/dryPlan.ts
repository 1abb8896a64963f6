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
  /** Where words under the tank's outlet begin. */
  under: Point;
}

const TANK = { width: 72, least: 84, most: 150 };
const PAN = { width: 116, height: 22 };
const OVER = 20; // [px] of the line into the tank over its lid
const UNDER = 16; // [px] of the way to the pump under its outlet
const BESIDE_RELIEF = 30; // [px] that the tank keeps under the pump's middle, for the relief's words

/** In the room between the row, the riser and the sheet's foot, under the gallery. */
export function dryPlan(
  layout: PressureStage["layout"],
  at: { left: number; drop: number; gallery: number; bottom: number },
  pump: Point,
  pipeWide: number,
): DryPlan {
  const bottom = at.bottom - UNDER;
  const highest = Math.max(pump[1] - BESIDE_RELIEF, at.gallery + 24 + OVER, bottom - TANK.most);
  const y = Math.min(highest, bottom - TANK.least);
  const tank = { x: at.left, y, width: TANK.width, height: bottom - y };
  const pan = { x: at.drop + 40, y: at.bottom - PAN.height, ...PAN };
  const outlet: Point = [tank.x + tank.width / 2, bottom];
  const inlet: Point = [tank.x + tank.width - 16, y];
  const lid = y - OVER;
  return {
    tank,
    pan,
    feed: {
      key: "from the tank",
      node: layout.inlet,
      line: [outlet, [outlet[0], at.bottom], [pump[0], at.bottom], [pump[0], pump[1] + 24]],
      width: pipeWide,
      airOn: "right",
    },
    back: {
      key: "to the tank",
      line: [
        [pan.x, pan.y + PAN.height / 2],
        [at.drop, pan.y + PAN.height / 2],
        [at.drop, lid],
        [inlet[0], lid],
        inlet,
      ],
      width: 11,
      airOn: "left",
    },
    scavenge: [at.drop, (pan.y + lid) / 2 + 8],
    under: [tank.x, at.bottom + 24],
  };
}
