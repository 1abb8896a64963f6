import type { UseQueryResult } from "@tanstack/react-query";
import {
  useMemo,
  useRef,
  useState,
  type ReactElement,
  type ReactNode,
  type RefObject,
} from "react";
import { wordsOf } from "../../api/client";
import { usePan, type PanFigures, type Slosh } from "../../api/queries";
import { useBuildView } from "../../document/BuildContext";
import { edgeFields, rectangleOf } from "../../document/edges";
import { InventedNotice } from "../../document/InventedNotice";
import { Numbers } from "../../document/Numbers";
import { useEdits, type Edits } from "../../document/useEdits";
import { useKept } from "../../document/useRecords";
import { gripsOf } from "../../drawing/drag";
import { Fitted } from "../../drawing/Fitted";
import { Grips } from "../../drawing/Grips";
import { Sheet } from "../../drawing/Sheet";
import type { Drawing } from "../../drawing/views";
import { Button } from "../../parts/Button";
import { InspectorTabs } from "../../parts/InspectorTabs";
import { Notice, Waiting } from "../../parts/Notice";
import { ReadOut } from "../../parts/ReadOut";
import { useSettings } from "../../parts/settings";
import { useSize } from "../../parts/size";
import { lengthAs, volumeAs } from "../../parts/units";
import { Checks } from "./Checks";
import { FitForms } from "../../document/circuit/FitForms";
import { PAN_KINDS } from "../../document/panFits";
import { Deepen } from "./Deepen";
import { Dipped } from "./Dipped";
import { FillCurve, type Attitude } from "./FillCurve";
import { heightAt, standingAt } from "./fill";
import { FromDrawing } from "./FromDrawing";
import { FromPhoto } from "./FromPhoto";
import { FromScan } from "./FromScan";
import { HoldVolume } from "./HoldVolume";
import { Inspection } from "./Inspection";
import { Levels } from "./Levels";
import { MakePage } from "./make/MakePage";

/** How full the pan stands: picked, or as it is. */
interface Standing {
  drawing: Drawing;
  figures: PanFigures;
  attitude: Attitude;
  litres: number;
  heightMm: number;
}

/** The pan's drawing as the engine stands, and what it holds, once both are known. */
function useStanding(
  slosh: UseQueryResult<Slosh>,
  pan: UseQueryResult<PanFigures>,
  attitude: Attitude,
  picked: number | null,
): Standing | null {
  const drawing = slosh.data?.drawing ?? null;
  const shown = useMemo(
    () =>
      drawing && attitude === "level" ? { ...drawing, lean_right_deg: 0, nose_up_deg: 0 } : drawing,
    [drawing, attitude],
  );
  if (!shown || !pan.data) return null;
  const litres = picked ?? shown.oil_in_pan_l;
  const fill = attitude === "level" ? pan.data.level : pan.data.in_car;
  return { drawing: shown, figures: pan.data, attitude, litres, heightMm: heightAt(fill, litres) };
}

/** What is fitted to the pan itself; going dry has a stage of its own. */
const ON_THE_PAN = PAN_KINDS.filter((kind) => kind !== "go_dry");

/** The pan drawn to scale, its oil standing; edges, mouth and plates are dragged on it. */
function ToScale({
  standing,
  around,
  words,
  sheet,
  act,
}: {
  standing: Standing;
  /** Whether what is round it is drawn. */
  around: boolean;
  words: string;
  sheet: RefObject<HTMLDivElement | null>;
  act: Edits["act"];
}): ReactElement {
  const { system, units } = useSettings();
  const { document } = useBuildView().build;
  const [box, { width, height }] = useSize();
  const { drawing, figures, attitude, litres, heightMm } = standing;
  const grips = gripsOf(
    document,
    { x: document.pickup.x_mm, y: document.pickup.y_mm },
    (zone) => rectangleOf(zone) && { ...rectangleOf(zone) },
    (index, side) => edgeFields(document.pan.zones, index, side),
  );
  const inPan = volumeAs(units, system, litres);
  const above = lengthAs(units, system, heightMm);
  const move = (moved: { fields: readonly string[]; mm: number }[]): void =>
    act({
      kind: "figures",
      figures: moved.flatMap(({ fields, mm }) =>
        fields.map((field) => ({ field, value: `${mm} mm` })),
      ),
    });
  return (
    <div ref={box} className="min-h-[420px] flex-1 overflow-hidden max-sm:overflow-visible">
      <div ref={sheet} data-fill-l={litres} data-height-mm={heightMm.toFixed(2)}>
        {width > 0 && (
          <Sheet
            drawing={drawing}
            oil={standingAt(attitude === "level" ? figures.level : figures.in_car, litres)}
            airy={false}
            words={words}
            callout={[
              `${inPan.figure} ${inPan.unit} stand ${above.figure} ${above.unit}`,
              "above the lowest point",
            ]}
            width={width}
            height={Math.max(height, 420)}
            only={null}
            over={(at) => (
              <>
                <Fitted
                  drawing={drawing}
                  document={document}
                  clearances={around ? figures.clearances : null}
                  at={at}
                />
                <Grips drawing={drawing} at={at} grips={grips} onMove={move} />
              </>
            )}
          />
        )}
      </div>
    </div>
  );
}

/** The drawing under its title, with what could not be drawn or is not the builder's yet. */
function Drawn({
  standing,
  error,
  act,
}: {
  standing: Standing;
  error: Error | null;
  act: Edits["act"];
}): ReactElement {
  const { system, units } = useSettings();
  const { build, go } = useBuildView();
  const [around, setAround] = useState(true);
  const sheet = useRef<HTMLDivElement>(null);
  const { drawing, attitude, litres } = standing;
  const inPan = volumeAs(units, system, litres);
  const toRail = volumeAs(units, system, drawing.capacity_to_rail_l);
  const words = `${inPan.figure} ${inPan.unit} standing ${attitude === "level" ? "with the rail level" : "as in the car"}`;
  return (
    <section aria-label="The pan to scale" className="flex min-w-0 flex-1 flex-col">
      <div className="flex flex-wrap items-start justify-between gap-x-4 gap-y-2 px-6 pt-3">
        <div>
          <h1 className="font-figure text-[22px] leading-7 font-semibold">
            Pan, drawn from your measurements
          </h1>
          <p className="font-figure text-[14px] text-ink-2">
            {words} · {toRail.figure} {toRail.unit} to the rail · sheet not to scale
          </p>
        </div>
        <div className="flex items-center gap-3">
          {drawing.around.length > 0 && (
            <label className="flex items-center gap-2 text-[14px]">
              <input
                type="checkbox"
                checked={around}
                onChange={(event) => setAround(event.target.checked)}
                className="size-4 accent-[var(--ink)]"
              />
              what is round it
            </label>
          )}
          <ReadOut name="Pan, drawn to scale" drawing={sheet} />
          <Button onClick={() => go("loads")}>On to the loads</Button>
        </div>
      </div>
      {build.invented.includes("pan") && (
        <div className="px-6">
          <InventedNotice what="pan" />
        </div>
      )}
      {error && (
        <div className="px-6 pt-2">
          <Notice kind="bad" title="This is the last pan that could be drawn">
            {wordsOf(error)}
          </Notice>
        </div>
      )}
      <ToScale standing={standing} around={around} words={words} sheet={sheet} act={act} />
    </section>
  );
}

/** Fill, checks, dips and other shapes, in one column. */
function FillAndChecks({
  standing,
  edits,
  onAttitude,
  onLitres,
}: {
  standing: Standing;
  edits: Edits;
  onAttitude: (attitude: Attitude) => void;
  onLitres: (litres: number) => void;
}): ReactElement {
  const { system } = useSettings();
  const { build, edit } = useBuildView();
  const { fault, type, act, replace } = edits;
  const { drawing, figures, attitude, litres, heightMm } = standing;
  const poured = useKept("poured");
  return (
    <>
      {fault && (
        <div className="p-3">
          <Notice kind="bad" title="Not saved">
            {fault}
          </Notice>
        </div>
      )}
      <FillCurve
        pan={figures}
        attitude={attitude}
        litres={litres}
        heightMm={heightMm}
        onAttitude={onAttitude}
        onLitres={onLitres}
      />
      <Checks pan={figures} onMend={act} />
      <Dipped kept={poured} pan={figures} litres={litres} heightMm={heightMm} />
      <Levels heightMm={heightMm} />
      <HoldVolume
        build={build}
        capacityL={drawing.capacity_to_rail_l}
        onDeepen={(by_mm, zones) => act({ kind: "deepen", by_mm, zones })}
      />
      <Deepen
        build={build}
        onAct={(wanted) =>
          edit.mutateAsync({ kind: "act", act: wanted, system }).finally(() => edit.reset())
        }
        onType={type}
        onReplace={replace}
      />
      <FromScan />
      <FromDrawing />
      <FromPhoto />
      <section aria-label="Fit to the pan" className="px-4 py-2">
        <FitForms kinds={ON_THE_PAN} title="Fit plates, gates, a tray; widen the sump" />
      </section>
    </>
  );
}

type Tab = "fill" | "as_it_came" | "numbers" | "make";

/** The pan to scale from its measurements, what it holds, and whether it agrees with itself. */
export function PanScreen(): ReactElement {
  const { build, forecast } = useBuildView();
  const { settled } = forecast;
  const pan = usePan(build, true);
  const [tab, setTab] = useState<Tab>("fill");
  const [attitude, setAttitude] = useState<Attitude>("in_car");
  const [picked, setPicked] = useState<number | null>(null);
  const standing = useStanding(settled, pan, attitude, picked);
  const edits = useEdits();
  const inspection = useKept("inspection");
  const error = settled.error ?? pan.error;
  if (!standing)
    return (
      <Waiting
        error={error ? wordsOf(error) : null}
        what="the pan"
        onRetry={() => {
          void settled.refetch();
          void pan.refetch();
        }}
      />
    );
  const pages = [
    {
      key: "fill" as const,
      label: "Fill, checks",
      content: (
        <FillAndChecks
          standing={standing}
          edits={edits}
          onAttitude={setAttitude}
          onLitres={setPicked}
        />
      ),
    },
    {
      key: "as_it_came" as const,
      label: "As it came",
      content: <Inspection buildId={build.id} kept={inspection} />,
    },
    {
      key: "numbers" as const,
      label: "Numbers",
      content: <Numbers drawing={settled.data?.drawing ?? null} lead="zones" />,
    },
  ];
  const make = { key: "make" as const, label: "Make", content: null };
  const column = (content: ReactNode): ReactElement => (
    <InspectorTabs shown={tab} onShow={setTab} pages={[...pages, { ...make, content }]} />
  );
  return (
    <div className="flex min-h-0 flex-1 flex-col lg:flex-row">
      {tab === "make" ? (
        <MakePage column={column} />
      ) : (
        <>
          <Drawn standing={standing} error={error} act={edits.act} />
          {column(null)}
        </>
      )}
    </div>
  );
}
