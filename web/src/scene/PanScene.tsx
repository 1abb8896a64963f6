import { addAfterEffect, Canvas, useThree } from "@react-three/fiber";
import { useEffect, useLayoutEffect, useMemo, useRef, type ReactElement } from "react";
import { Color, DoubleSide, type OrthographicCamera } from "three";
import { LineMaterial } from "three/addons/lines/LineMaterial.js";
import { LineSegments2 } from "three/addons/lines/LineSegments2.js";
import { LineSegmentsGeometry } from "three/addons/lines/LineSegmentsGeometry.js";
import type { MovingFrame } from "../drawing/movingOil";
import type { Drawing, OilSurface } from "../drawing/views";
import type { Projection } from "./camera";
import { cutPlane, floorOf, gatesOf, piecesOf, type CutWay } from "./model";
import { oilSkin, type OilSkin } from "./movingOil";
import { pickupLines, pickupRings, skinOf } from "./pickup";
import { areaNormal, type Polygon, type Vector } from "./solid";
import { triangles } from "./triangles";

type Tokens = Record<string, string>;
type Lines = readonly (readonly [Vector, Vector])[];

const TOKENS = [
  "paper",
  "ink",
  "line",
  "oil",
  "oil-2",
  "oil-line",
  "oil-deep",
  "metal",
  "metal-2",
  "metal-3",
  "metal-ink",
  "air",
  "air-ink",
];

/** The theme's colours as they are now. */
function tokensNow(): Tokens {
  const style = getComputedStyle(document.documentElement);
  return Object.fromEntries(
    TOKENS.map((name) => [name, style.getPropertyValue(`--${name}`).trim()]),
  );
}

const FRAGMENT = `
uniform vec3 ground;
uniform vec3 ink;
uniform float spacing;
uniform float way;
void main() {
  float at = mod(gl_FragCoord.x + way * gl_FragCoord.y, spacing);
  gl_FragColor = vec4(mix(ground, ink, step(at, 1.3)), 1.0);
  #include <colorspace_fragment>
}`;
const VERTEX = `void main() { gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0); }`;

function Faces({
  pieces,
  color,
  hatch,
}: {
  pieces: readonly (readonly Polygon[])[];
  color: string;
  hatch?: { ink: string; way: 1 | -1; spacing: number };
}): ReactElement | null {
  const positions = useMemo(() => new Float32Array(pieces.flatMap(triangles)), [pieces]);
  const uniforms = useMemo(
    () => ({
      ground: { value: new Color(color) },
      ink: { value: new Color(hatch?.ink ?? color) },
      way: { value: hatch?.way ?? 1 },
      spacing: { value: hatch?.spacing ?? 7 },
    }),
    [color, hatch?.ink, hatch?.way, hatch?.spacing],
  );
  if (positions.length === 0) return null;
  // pushed back a little, so that lines drawn on a face are in front of it
  const behind = { polygonOffset: true, polygonOffsetFactor: 1, polygonOffsetUnits: 1 };
  return (
    <mesh frustumCulled={false}>
      <bufferGeometry>
        <bufferAttribute attach="attributes-position" args={[positions, 3]} />
      </bufferGeometry>
      {hatch ? (
        <shaderMaterial
          key={`${color}${hatch.ink}`}
          vertexShader={VERTEX}
          fragmentShader={FRAGMENT}
          uniforms={uniforms}
          side={DoubleSide}
          {...behind}
        />
      ) : (
        <meshBasicMaterial color={color} side={DoubleSide} {...behind} />
      )}
    </mesh>
  );
}

/** A part of the moving oil's skin, each piece shaded by the way it faces. */
function Skin({ part, color }: { part: OilSkin["surface"]; color: string }): ReactElement | null {
  if (part.positions.length === 0) return null;
  return (
    <mesh frustumCulled={false}>
      <bufferGeometry key={part.positions.length}>
        <bufferAttribute attach="attributes-position" args={[part.positions, 3]} />
        <bufferAttribute attach="attributes-color" args={[part.shades, 3]} />
      </bufferGeometry>
      <meshBasicMaterial color={color} vertexColors side={DoubleSide} />
    </mesh>
  );
}

function Strokes({
  lines,
  color,
  width,
  dashed = false,
}: {
  lines: Lines;
  color: string;
  width: number;
  dashed?: boolean;
}): ReactElement | null {
  const size = useThree((state) => state.size);
  const drawn = useMemo(() => {
    if (lines.length === 0) return null;
    const geometry = new LineSegmentsGeometry();
    geometry.setPositions(lines.flatMap(([from, to]) => [...from, ...to]));
    const material = new LineMaterial({
      color: new Color(color),
      linewidth: width,
      dashed,
      dashSize: 9,
      gapSize: 5,
    });
    material.resolution.set(size.width, size.height);
    const strokes = new LineSegments2(geometry, material);
    if (dashed) strokes.computeLineDistances();
    strokes.frustumCulled = false;
    return strokes;
  }, [lines, color, width, dashed, size.width, size.height]);
  useEffect(
    () => () => {
      drawn?.geometry.dispose();
      drawn?.material.dispose();
    },
    [drawn],
  );
  return drawn && <primitive object={drawn} />;
}

function place(camera: OrthographicCamera, projection: Projection): void {
  const { toViewer, middle, up, centre, scale, width, height } = projection;
  camera.position.set(
    middle[0] + 2000 * toViewer[0],
    middle[1] + 2000 * toViewer[1],
    middle[2] + 2000 * toViewer[2],
  );
  camera.up.set(...up);
  camera.left = -centre[0];
  camera.right = width - centre[0];
  camera.top = centre[1];
  camera.bottom = centre[1] - height;
  camera.near = 1;
  camera.far = 4000;
  camera.zoom = scale;
  camera.lookAt(...middle);
  camera.updateProjectionMatrix();
}

/** The camera as the projection says. */
function Viewer({ projection }: { projection: Projection }): null {
  const get = useThree((state) => state.get);
  useEffect(() => {
    const { camera, invalidate } = get();
    place(camera as OrthographicCamera, projection);
    invalidate();
  }, [get, projection]);
  return null;
}

/** Writes on the canvas which moment it shows, once that has been painted. */
function Stamp({ stamp }: { stamp: string }): null {
  const get = useThree((state) => state.get);
  const now = useRef(stamp);
  useLayoutEffect(() => {
    now.current = stamp;
    get().invalidate();
  }, [get, stamp]);
  useEffect(
    () =>
      addAfterEffect(() => {
        get().gl.domElement.dataset.painted = now.current;
      }),
    [get],
  );
  return null;
}

/** Steel shaded by the way it faces, as on the sheet. */
function steelOf(polygon: Polygon): "metal" | "metal-2" | "metal-3" {
  const [x, y, z] = areaNormal(polygon).map(Math.abs) as [number, number, number];
  if (z > x && z > y) return "metal-2";
  return y > x ? "metal" : "metal-3";
}

function Bodies({ drawing, oil, airy, way, projection, moving }: SceneProps): ReactElement {
  const ink = tokensNow();
  const { toViewer } = projection;
  // under moving oil the settled one is not drawn: nothing has to follow it
  const lies = moving ? drawing.standing : oil;
  const pieces = useMemo(
    () => piecesOf(drawing, lies, way, toViewer),
    [drawing, lies, way, toViewer],
  );
  const gates = useMemo(
    () => gatesOf(drawing, way, toViewer, moving),
    [drawing, way, toViewer, moving],
  );
  const floorAt = useMemo(() => floorOf(drawing), [drawing]);
  const skin3d = useMemo(
    () =>
      moving
        ? oilSkin(moving.frames, moving.index, cutPlane(drawing, way, toViewer), floorAt)
        : null,
    [moving, drawing, way, toViewer, floorAt],
  );
  const steel = useMemo(() => {
    const by = { metal: [], "metal-2": [], "metal-3": [] } as Record<string, Polygon[][]>;
    for (const polygon of pieces.metal) by[steelOf(polygon)]?.push([polygon]);
    return by;
  }, [pieces]);
  const one = (polygons: readonly Polygon[]): Polygon[][] => polygons.map((polygon) => [polygon]);
  const rings = useMemo(() => pickupRings(drawing), [drawing]);
  const skin = useMemo(() => skinOf(rings).map((quad) => [quad]), [rings]);
  const outline = useMemo(() => pickupLines(rings, toViewer), [rings, toViewer]);
  const color = (name: string): string => ink[name] || "#888";
  return (
    <>
      {Object.entries(steel).map(([name, polygons]) => (
        <Faces key={name} pieces={polygons} color={color(name)} />
      ))}
      <Faces pieces={pieces.plates} color={color("metal")} />
      <Faces pieces={one(gates.leaves)} color={color("metal-3")} />
      <Strokes lines={gates.edges} color={color("ink")} width={1.6} />
      {skin3d ? (
        <>
          <Skin part={skin3d.surface} color={color("oil")} />
          <Skin part={skin3d.body} color={color("oil-2")} />
        </>
      ) : (
        <>
          <Faces pieces={one(pieces.oilSurface)} color={color("oil")} />
          <Faces pieces={one(pieces.oilSides)} color={color("oil-2")} />
          <Faces pieces={one(pieces.oilCut)} color={color("oil-2")} />
        </>
      )}
      <Faces
        pieces={pieces.metalCut}
        color={color("metal")}
        hatch={{ ink: color("metal-ink"), way: -1, spacing: 7 }}
      />
      {airy ? (
        <Faces
          pieces={skin}
          color={color("air")}
          hatch={{ ink: color("air-ink"), way: 1, spacing: 8 }}
        />
      ) : (
        <Faces pieces={skin} color={color("oil")} />
      )}
      <Strokes lines={pieces.removed} color={color("line")} width={1} dashed />
      <Strokes lines={pieces.edges} color={color("ink")} width={1.6} />
      <Strokes lines={pieces.plateCuts} color={color("ink")} width={3} />
      {!skin3d && <Strokes lines={pieces.oilEdges} color={color("oil-line")} width={1.6} />}
      {(skin3d ? [] : pieces.heights).map(({ z, lines }) => (
        <Strokes key={z} lines={lines} color={color("oil-line")} width={z === 0 ? 2 : 1} />
      ))}
      <Strokes lines={outline} color={color("ink")} width={1.6} />
    </>
  );
}

export interface SceneProps {
  drawing: Drawing;
  oil: OilSurface;
  airy: boolean;
  way: CutWay;
  projection: Projection;
  /** The moving oil on record and which frame of it; settled oil is drawn when there is none. */
  moving: MovingFrame | null;
  /** The moment shown, as it is to be written on the canvas. */
  stamp: string;
}

/** The pan cut away with the oil in it; drawn when something changes, not all the time. */
export default function PanScene(props: SceneProps): ReactElement {
  return (
    <Canvas
      orthographic
      flat
      frameloop="demand"
      dpr={[1, 2]}
      gl={{ antialias: true, preserveDrawingBuffer: true }}
      aria-hidden="true"
    >
      <Viewer projection={props.projection} />
      <Stamp stamp={props.stamp} />
      <Bodies {...props} />
    </Canvas>
  );
}
