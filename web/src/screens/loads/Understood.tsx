import { useRef, type ReactElement } from "react";
import type { Schemas } from "../../api/client";
import { Button } from "../../parts/Button";
import type { Table } from "../../parts/csv";
import { Mark } from "../../parts/Mark";
import { Notice } from "../../parts/Notice";
import { ReadOut } from "../../parts/ReadOut";
import { CircuitLine } from "../../plots/CircuitLine";
import { positiveWords, type Channel } from "./columns";

const select = "h-9 w-full min-w-0 rounded-[2px] border border-ink bg-panel px-2 text-[14px]";

/** The line as it was understood, to look at and to read out. */
function DrivenLine({ line }: { line: Schemas["LapPreviewOut"]["line_m"] }): ReactElement {
  const drawn = useRef<HTMLDivElement>(null);
  const table = (): Table => ({
    title: "Line driven, from speed and side g",
    headings: ["ahead of the start [m]", "left of it [m]"],
    rows: line,
  });
  return (
    <div ref={drawn} className="flex items-start">
      <CircuitLine line={line} marks={[]} here={null} width={200} height={140} />
      <ReadOut name="Line driven" table={table} drawing={drawn} />
    </div>
  );
}

function ChannelRow({
  channel,
  headings,
  fault,
  onChange,
}: {
  channel: Channel;
  headings: string[];
  fault: string | undefined;
  onChange: (channel: Channel) => void;
}): ReactElement {
  return (
    <tr className="border-b border-hair align-top">
      <th scope="row" className="py-3 pr-3 text-left font-medium">
        {channel.label}
        {fault && (
          <span role="alert" className="mt-1 flex gap-1 text-[13px] font-normal text-bad">
            <Mark state="bad" size={14} /> {fault}
          </span>
        )}
      </th>
      <td className="py-2 pr-2">
        <select
          className={select}
          aria-label={`Column of ${channel.label}`}
          value={channel.heading}
          onChange={(event) => onChange({ ...channel, heading: event.target.value })}
        >
          <option value="">choose…</option>
          {headings.map((heading, index) => (
            <option key={`${index}-${heading}`} value={heading}>
              {heading}
            </option>
          ))}
        </select>
      </td>
      <td className="py-2 pr-2">
        <select
          className={select}
          aria-label={`Unit of ${channel.label}`}
          value={channel.unit}
          onChange={(event) => onChange({ ...channel, unit: event.target.value })}
        >
          <option value="">choose…</option>
          {channel.units.map((unit) => (
            <option key={unit}>{unit}</option>
          ))}
        </select>
      </td>
      <td className="py-2">
        {channel.positive_choices.length > 0 && (
          <select
            className={select}
            aria-label={`Positive ${channel.label} means`}
            value={channel.positive ?? ""}
            onChange={(event) => onChange({ ...channel, positive: event.target.value || null })}
          >
            <option value="">choose…</option>
            {channel.positive_choices.map((choice) => (
              <option key={choice} value={choice}>
                {positiveWords[choice] ?? choice}
              </option>
            ))}
          </select>
        )}
      </td>
    </tr>
  );
}

/** What a file was understood to hold, in words and as a line, with each column open to change. */
export function Understood({
  preview,
  busy,
  keeping,
  name,
  onName,
  onChange,
  onKeep,
}: {
  preview: Schemas["LapPreviewOut"];
  busy: boolean;
  keeping: boolean;
  name: string;
  onName: (name: string) => void;
  onChange: (channels: Channel[]) => void;
  onKeep: (channels: Channel[]) => void;
}): ReactElement {
  const { channels, faults, sentences, doubts } = preview;
  const about = (channel: Channel): string | undefined =>
    faults.find(
      (fault) =>
        fault.field === `channels.${channel.name}` ||
        fault.field.startsWith(`channels.${channel.name}.`),
    )?.message;
  const others = faults.filter((fault) => !fault.field.startsWith("channels."));
  return (
    <div aria-busy={busy}>
      <div className="overflow-x-auto">
        <table className="w-full min-w-[560px] table-fixed text-[14px]">
          <thead>
            <tr className="border-b border-ink text-left font-figure text-[14px] text-ink-2">
              <th className="w-[30%] py-1 font-medium">Needed</th>
              <th className="py-1 font-medium">Column in the file</th>
              <th className="w-[18%] py-1 font-medium">Unit</th>
              <th className="w-[22%] py-1 font-medium">Plus means</th>
            </tr>
          </thead>
          <tbody>
            {channels.map((channel) => (
              <ChannelRow
                key={channel.name}
                channel={channel}
                headings={preview.headings}
                fault={about(channel)}
                onChange={(next) =>
                  onChange(channels.map((each) => (each.name === next.name ? next : each)))
                }
              />
            ))}
          </tbody>
        </table>
      </div>
      {others.length > 0 && (
        <div className="mt-4">
          <Notice kind="bad" title="The file cannot be used as it is">
            <ul>
              {others.map((fault) => (
                <li key={fault.field + fault.message}>
                  {fault.field}: {fault.message}
                </li>
              ))}
            </ul>
          </Notice>
        </div>
      )}
      {sentences.length > 0 && (
        <div className="mt-4 flex flex-wrap items-start gap-6">
          <DrivenLine line={preview.line_m} />
          <div className="min-w-[260px] flex-1">
            <h2 className="font-figure text-[18px] font-semibold">Understood</h2>
            {sentences.map((sentence) => (
              <p key={sentence} className="mt-1">
                {sentence}
              </p>
            ))}
            {doubts.map((doubt) => (
              <div key={doubt} className="mt-2">
                <Notice kind="caution" title="Caution">
                  {doubt}
                </Notice>
              </div>
            ))}
            <p className="mt-2 text-[14px] text-ink-2">
              Is that your lap? If it turns the wrong way, change what plus means. Accelerations are
              smoothed over 0.1 s.
            </p>
            <label className="mt-3 block text-[14px]">
              Name of the lap
              <input
                value={name}
                maxLength={120}
                onChange={(event) => onName(event.target.value)}
                className="mt-1 block h-9 w-full rounded-[2px] border border-ink bg-panel px-2"
              />
            </label>
            <Button
              look="main"
              className="mt-3"
              disabled={busy || keeping || name.trim() === ""}
              onClick={() => onKeep(channels)}
            >
              {keeping ? "Keeping it…" : "Yes, judge by this lap"}
            </Button>
          </div>
        </div>
      )}
    </div>
  );
}
