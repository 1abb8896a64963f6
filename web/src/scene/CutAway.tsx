import {
  lazy,
  Suspense,
  useDeferredValue,
  useMemo,
  useRef,
  type KeyboardEvent,
  type PointerEvent,
  type ReactElement,
} from "react";
import type { MovingFrame } from "../drawing/movingOil";
import type { Drawing, OilSurface } from "../drawing/views";
import { useSettings } from "../parts/settings";
import { loadScene } from "./fetching";
import { dragged, FIRST_STANCE, projectionOf, type Stance } from "./camera";
import { litresDrawn } from "./model";
import { SceneNotes } from "./SceneNotes";
import type { Vector } from "./solid";
import type { PanView } from "./ViewChoices";

const PanScene = lazy(loadScene);

const MARGIN = { x: 44, top: 34, bottom: 104 };
/** Where there is no section beside the scene. */
const NARROW = { x: 24, top: 34, bottom: 64 };
/** Wide enough for a section beside the scene [px]. */
const WIDE = 620;

/** The pan cut away, from any side: drag to turn, wheel to come nearer, arrow keys when focused. */
export function CutAway({
  drawing,
  oil,
  airy,
  callout,
  words,
  width,
  height,
  moving,
  stamp,
  view,
  onView,
  beside = null,
}: {
  drawing: Drawing;
  oil: OilSurface;
  airy: boolean;
  callout: readonly [string, string];
  words: string;
  width: number;
  height: number;
  moving: MovingFrame | null;
  /** The moment shown, written on the canvas once it has been painted. */
  stamp: string;
  view: PanView;
  onView: (change: (view: PanView) => PanView) => void;
  /** Drawings that this one stands beside, at one scale. */
  beside?: readonly Drawing[] | null;
}): ReactElement {
  useSettings(); // drawn again in another theme's colours
  const { stance, way } = view;
  const setStance = (next: Stance): void => onView((now) => ({ ...now, stance: next }));
  // words and sections first, the scene as soon as there is time
  const shown = useMemo(() => ({ oil, airy, moving, stamp }), [oil, airy, moving, stamp]);
  const scene = useDeferredValue(shown);
  const grip = useRef<[number, number] | null>(null);
  const upright = drawing.standing.normal;
  const points = useMemo(
    (): Vector[] =>
      [drawing, ...(beside ?? [])].flatMap(({ faces }) => faces.flatMap((face) => face.corners_mm)),
    [drawing, beside],
  );
  const projection = useMemo(
    () => projectionOf(stance, upright, points, width, height, width > WIDE ? MARGIN : NARROW),
    [stance, upright, points, width, height],
  );

  function onKey(event: KeyboardEvent<HTMLDivElement>): void {
    const steps: Record<string, [number, number]> = {
      ArrowLeft: [-16, 0],
      ArrowRight: [16, 0],
      ArrowUp: [0, -12],
      ArrowDown: [0, 12],
    };
    const step = steps[event.key];
    if (step) setStance(dragged(stance, ...step));
    else if (event.key === "+" || event.key === "=") zoomBy(1.15);
    else if (event.key === "-") zoomBy(1 / 1.15);
    else if (event.key === "Home") setStance(FIRST_STANCE);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  function zoomBy(factor: number): void {
    onView((now) => {
      const zoom = Math.min(6, Math.max(0.5, now.stance.zoom * factor));
      return { ...now, stance: { ...now.stance, zoom } };
    });
  }

  function onMove(event: PointerEvent<HTMLDivElement>): void {
    const from = grip.current;
    if (!from) return;
    setStance(dragged(stance, event.clientX - from[0], event.clientY - from[1]));
    grip.current = [event.clientX, event.clientY];
  }

  return (
    <div className="relative" data-oil-litres={litresDrawn(drawing, oil).toFixed(3)}>
      <div
        role="group"
        aria-label="The pan in three dimensions: arrow keys turn it, plus and minus come nearer"
        tabIndex={0}
        className="relative cursor-grab touch-none select-none focus-visible:outline-offset-[-3px]"
        data-scene
        onKeyDown={onKey}
        onPointerDown={(event) => {
          grip.current = [event.clientX, event.clientY];
          event.currentTarget.setPointerCapture(event.pointerId);
        }}
        onPointerMove={onMove}
        onPointerUp={() => {
          grip.current = null;
        }}
        onPointerCancel={() => {
          grip.current = null;
        }}
        onWheel={(event) => zoomBy(Math.exp(-event.deltaY * 0.001))}
        onDoubleClick={() => setStance(FIRST_STANCE)}
      >
        <Scene height={height} width={width}>
          <Suspense
            fallback={
              <p role="status" className="p-6 text-ink-2">
                Drawing the pan…
              </p>
            }
          >
            <PanScene drawing={drawing} way={way} projection={projection} {...scene} />
          </Suspense>
        </Scene>
        <SceneNotes
          drawing={drawing}
          oil={oil}
          airy={airy}
          callout={callout}
          way={way}
          projection={projection}
          words={words}
          moving={moving}
          inset={width > WIDE}
        />
      </div>
    </div>
  );
}

function Scene({
  width,
  height,
  children,
}: {
  width: number;
  height: number;
  children: ReactElement;
}): ReactElement {
  const [boxWidth, boxHeight] = [Math.floor(width), Math.floor(height)];
  return (
    <div style={{ width: boxWidth, height: boxHeight }} className="overflow-hidden">
      {children}
    </div>
  );
}
