import type { ReactElement } from "react";
import type { Reading, Understood } from "../../api/logs";
import { Mark } from "../../parts/Mark";
import { clockOf, positiveWords, withClock, withColumn, type Channel, type Clock } from "./reading";

/** A row of the table; on a phone its name, its column under it, and unit and sign side by side. */
const tableRow =
  "border-b border-hair align-top max-sm:grid max-sm:grid-cols-2 max-sm:gap-x-2 max-sm:pb-2";
const table = "w-full table-fixed text-[14px] max-sm:block max-sm:[&>tbody]:block";

const select = "h-9 w-full min-w-0 rounded-[2px] border border-ink bg-panel px-2 text-[14px]";

function Fault({ words }: { words: string | undefined }): ReactElement | null {
  if (!words) return null;
  return (
    <span role="alert" className="mt-1 flex gap-1 text-[13px] font-normal text-bad">
      <Mark state="bad" size={14} /> {words}
    </span>
  );
}

interface RowProps {
  channel: Channel;
  understood: Understood;
  reading: Reading;
  fault: string | undefined;
  onChange: (reading: Reading) => void;
}

function HeadingSelect({ channel, understood, reading, onChange }: RowProps): ReactElement {
  return (
    <select
      className={select}
      aria-label={`Column of ${channel.label}`}
      value={reading.columns[channel.name]?.heading ?? ""}
      onChange={(event) =>
        onChange(withColumn(reading, channel.name, { heading: event.target.value }))
      }
    >
      <option value="">{channel.use === "extra" ? "not used" : "choose…"}</option>
      {understood.headings.map((heading, index) => (
        <option key={`${index}-${heading}`} value={heading}>
          {heading}
        </option>
      ))}
    </select>
  );
}

function UnitSelect({ channel, reading, onChange }: RowProps): ReactElement | null {
  const column = reading.columns[channel.name];
  if (channel.units.length === 0 || !column) return null;
  return (
    <select
      className={select}
      aria-label={`Unit of ${channel.label}`}
      value={column.unit}
      onChange={(event) =>
        onChange(withColumn(reading, channel.name, { unit: event.target.value }))
      }
    >
      <option value="">choose…</option>
      {channel.units.map((unit) => (
        <option key={unit}>{unit}</option>
      ))}
    </select>
  );
}

function SignSelect({ channel, reading, onChange }: RowProps): ReactElement | null {
  const column = reading.columns[channel.name];
  if (channel.positive_choices.length === 0 || !column) return null;
  return (
    <select
      className={select}
      aria-label={`Positive ${channel.label} means`}
      value={column.positive ?? ""}
      onChange={(event) =>
        onChange(
          withColumn(reading, channel.name, {
            positive: (event.target.value || null) as typeof column.positive,
          }),
        )
      }
    >
      <option value="">choose…</option>
      {channel.positive_choices.map((choice) => (
        <option key={choice} value={choice}>
          {positiveWords[choice] ?? choice}
        </option>
      ))}
    </select>
  );
}

/** What stands over the column, where on a phone there is no head that says it. */
function OnPhone({ children }: { children: string }): ReactElement {
  return <span className="block text-[13px] text-ink-2 sm:hidden">{children}</span>;
}

function Row(props: RowProps): ReactElement {
  const { channel, reading } = props;
  const isRead = Boolean(reading.columns[channel.name]);
  return (
    <tr className={tableRow}>
      <th scope="row" className="py-3 pr-3 text-left font-medium max-sm:col-span-2 max-sm:pb-1">
        {channel.label}
        <Fault words={props.fault} />
      </th>
      <td className="py-2 pr-2 max-sm:col-span-2 max-sm:p-0">
        <HeadingSelect {...props} />
      </td>
      <td className="py-2 pr-2 max-sm:p-0">
        {isRead && channel.units.length > 0 && <OnPhone>unit</OnPhone>}
        <UnitSelect {...props} />
      </td>
      <td className="py-2 max-sm:p-0">
        {isRead && channel.positive_choices.length > 0 && <OnPhone>plus means</OnPhone>}
        <SignSelect {...props} />
      </td>
    </tr>
  );
}

function ClockRow({
  understood,
  reading,
  fault,
  onChange,
}: Omit<RowProps, "channel">): ReactElement {
  const clock = clockOf(reading);
  const channel = understood.channels.find((each) => each.name === clock);
  return (
    <tr className={tableRow}>
      <th scope="row" className="py-2 pr-3 text-left font-medium max-sm:col-span-2 max-sm:pr-0">
        <select
          className={select}
          aria-label="What tells the time"
          value={clock}
          onChange={(event) => onChange(withClock(reading, event.target.value as Clock))}
        >
          <option value="time">time</option>
          <option value="distance">distance</option>
          <option value="rate">rows a second</option>
        </select>
        <Fault words={fault} />
      </th>
      <td className="py-2 pr-2 max-sm:p-0">
        {channel ? (
          <HeadingSelect {...{ channel, understood, reading, fault, onChange }} />
        ) : (
          <label className="flex items-center gap-2">
            <input
              key={reading.sample_rate_hz}
              defaultValue={reading.sample_rate_hz ?? ""}
              inputMode="decimal"
              aria-label="Rows a second"
              className="h-9 w-24 border border-ink bg-panel px-2 font-figure text-[16px]"
              onBlur={(event) => {
                const rate = Number(event.target.value.replace(",", "."));
                if (rate > 0 && rate !== reading.sample_rate_hz)
                  onChange({ ...reading, sample_rate_hz: rate });
              }}
              onKeyDown={(event) => {
                if (event.key === "Enter") event.currentTarget.blur();
              }}
            />
            in a second
          </label>
        )}
      </td>
      <td className="py-2 pr-2 max-sm:p-0">
        {channel && <UnitSelect {...{ channel, understood, reading, fault, onChange }} />}
      </td>
      <td className="max-sm:hidden" />
    </tr>
  );
}

/** Which column is what, in which unit and sign; extras folded away while nothing is wrong. */
export function Columns({
  understood,
  reading,
  onChange,
}: {
  understood: Understood;
  reading: Reading;
  onChange: (reading: Reading) => void;
}): ReactElement {
  const about = (name: string): string | undefined =>
    understood.faults.find(
      ({ field }) => field === `channels.${name}` || field.startsWith(`channels.${name}.`),
    )?.message;
  const row = (channel: Channel): ReactElement => (
    <Row
      key={channel.name}
      fault={about(channel.name)}
      {...{ channel, understood, reading, onChange }}
    />
  );
  const extras = understood.channels.filter((channel) => channel.use === "extra");
  const used = extras.filter((channel) => reading.columns[channel.name]);
  const head = (
    <thead className="max-sm:hidden">
      <tr className="border-b border-ink text-left font-figure text-[14px] text-ink-2">
        <th className="w-[26%] py-1 font-medium">Needed</th>
        <th className="py-1 font-medium">Column in the file</th>
        <th className="w-[18%] py-1 font-medium">Unit</th>
        <th className="w-[22%] py-1 font-medium">Plus means</th>
      </tr>
    </thead>
  );
  return (
    <>
      <table className={table}>
        {head}
        <tbody>
          <ClockRow
            fault={about("time") ?? about("distance")}
            {...{ understood, reading, onChange }}
          />
          {understood.channels.filter((channel) => channel.use === "needed").map(row)}
        </tbody>
      </table>
      <details className="mt-2" open={extras.some((channel) => about(channel.name)) || undefined}>
        <summary className="text-[14px] underline decoration-dotted underline-offset-4">
          {used.length > 0
            ? `Also used: ${used
                .filter((channel) => channel.name !== "longitude")
                .map((channel) => (channel.name === "latitude" ? "GPS place" : channel.label))
                .join(", ")}`
            : "Use more of the file: vertical g, GPS, yaw rate, laps, oil pressure"}
        </summary>
        <table className={`mt-1 ${table}`}>
          <tbody>{extras.map(row)}</tbody>
        </table>
      </details>
    </>
  );
}
