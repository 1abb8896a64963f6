import type { Schemas } from "../../api/client";
import type { LapColumns } from "../../api/queries";

export type Channel = Schemas["ChannelOut"];

/** The columns to send: channels that have a heading, with unit and sign as chosen. */
export function columnsOf(channels: readonly Channel[]): LapColumns {
  const columns: LapColumns = {};
  for (const { name, heading, unit, positive } of channels)
    if (heading)
      columns[name] = {
        heading,
        unit,
        positive: positive as NonNullable<LapColumns[typeof name]>["positive"],
      };
  return columns;
}

/** What a positive figure means, as a question's answer. */
export const positiveWords: Record<string, string> = {
  left: "turning left",
  right: "turning right",
  forward: "gaining speed",
  braking: "braking",
};
