/** What the middle of the screen shows. */
export type PictureKind = "circuit" | "traces" | "table";

/** The page of the inspector. */
export type Tab = "bottle" | "supply" | "cooling" | "dips" | "numbers";
