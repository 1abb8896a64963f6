import { useState, type ReactElement } from "react";
import type { Fit, Offered } from "../../api/fit";
import { newId } from "../../offline/queue";
import { Button } from "../../parts/Button";
import { useFormUnits } from "../../parts/settings";
import { useSize } from "../../parts/size";
import { lengthAs, storedFrom } from "../../parts/units";
import { Envelope } from "./Envelope";
import { pointed, type Key } from "./envelope";

type Spot = [number, number, number];
const VIEWS: readonly Key[] = ["side", "front"];
const HIGH = 190;
/** A gap that is commonly wanted [mm]. */
const USUAL = 10;

/** The middle of the pan: where a place lies until it is pointed at. */
function middleOf(fit: Fit): Spot {
  const frame = fit.frames.find((each) => each.frame === "car");
  const at = (key: Key, axis: 0 | 1): number => {
    const own = frame?.views.find((view) => view.key === key)?.pan_mm.flat() ?? [];
    const values = own.map((point) => point[axis]);
    return values.length > 0 ? Math.round((Math.min(...values) + Math.max(...values)) / 2) : 0;
  };
  return [at("side", 0), at("front", 0), at("side", 1)];
}

/** A place that the forecast does not know: said by name, pointed at on the drawing. */
export function SayPlace({
  fit,
  onEnter,
}: {
  fit: Fit;
  onEnter: (entry: Offered) => void;
}): ReactElement {
  const [name, setName] = useState("");
  const [subject, setSubject] = useState<Fit["subjects"][number]>("pan");
  const { units, system } = useFormUnits();
  const usual = lengthAs(units, system, USUAL);
  const [wanted, setWanted] = useState(usual.figure);
  const [at, setAt] = useState<Spot | null>(null);
  const [isDrawn, setDrawn] = useState(false);
  const [frame, size] = useSize();
  const gap = storedFrom(units, "wanted_mm", system, Number(wanted.replace(",", ".")));
  const isRight = name.trim() !== "" && gap >= 0 && gap <= 500;
  const input = "min-h-11 border border-ink bg-panel px-2 text-[16px]";
  const car = fit.frames.find((each) => each.frame === "car");
  return (
    <div ref={frame}>
      <form
        className="flex flex-wrap items-end gap-2 border-t border-hair pt-2 text-[14px] text-ink-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (!isRight) return;
          const place = `o${newId().replaceAll("-", "").slice(0, 12)}`;
          onEnter({
            kind: "place_said",
            place,
            name: name.trim(),
            subject,
            wanted_mm: gap,
            at_mm: at,
          });
          setName("");
          setAt(null);
          setDrawn(false);
        }}
      >
        <label className="flex min-w-[180px] flex-1 flex-col">
          A place that is not listed
          <input
            value={name}
            maxLength={80}
            placeholder="kick-out lid to engine mount"
            onChange={(event) => setName(event.target.value)}
            className={input}
          />
        </label>
        <label className="flex flex-col">
          of
          <select
            value={subject}
            onChange={(event) => setSubject(event.target.value as typeof subject)}
            className={input}
          >
            {fit.subjects.map((each) => (
              <option key={each} value={each}>
                {each}
              </option>
            ))}
          </select>
        </label>
        <label className="flex flex-col">
          wanted, {usual.unit}
          <input
            value={wanted}
            inputMode="decimal"
            onChange={(event) => setWanted(event.target.value)}
            className={`${input} w-20`}
          />
        </label>
        <Button
          className="min-h-11"
          aria-pressed={isDrawn}
          onClick={() => {
            setDrawn(!isDrawn);
            setAt(isDrawn ? null : (at ?? middleOf(fit)));
          }}
        >
          {isDrawn ? "Not on the drawing" : "Point at it"}
        </Button>
        <Button type="submit" disabled={!isRight} className="min-h-11">
          Look there too
        </Button>
        {isDrawn && car && size.width > 0 && (
          <div className="w-full" data-pointing>
            <p>Touch where it is, in both views.</p>
            {VIEWS.map((key) => {
              const view = car.views.find((each) => each.key === key);
              return (
                view && (
                  <Envelope
                    key={key}
                    frame={car}
                    view={view}
                    places={[]}
                    picked={undefined}
                    width={size.width}
                    mostHeight={HIGH}
                    mark={at}
                    onPick={() => undefined}
                    onPoint={(point) => setAt(pointed(at ?? middleOf(fit), key, point))}
                  />
                )
              );
            })}
          </div>
        )}
      </form>
    </div>
  );
}
