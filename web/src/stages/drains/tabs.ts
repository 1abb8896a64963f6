/** The pages beside the drawing. */
export type Tab = "drains" | "breathing" | "rules" | "numbers";
