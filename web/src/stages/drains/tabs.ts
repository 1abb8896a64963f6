/** The pages beside the drawing. */
export type Tab = "drains" | "heads" | "breathing" | "rules" | "numbers";
