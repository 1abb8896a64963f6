import { readdirSync, readFileSync } from "node:fs";
import { defineConfig } from "vitest/config";

const tests = readdirSync("src", { recursive: true, encoding: "utf8" })
  .filter((path) => /\.test\.tsx?$/.test(path))
  .map((path) => `src/${path}`);
/** A file that puts another module in the place of one must have all its modules for itself. */
const isApart = (path: string): boolean => readFileSync(path, "utf8").includes("vi.mock(");

const project = (name: string, include: string[], isolate: boolean) => ({
  extends: true as const,
  test: { name, include, isolate, sequence: { groupOrder: Number(isolate) } },
});

export default defineConfig({
  test: {
    environment: "node",
    setupFiles: ["src/testing/each.ts"],
    testTimeout: 20_000, // other checks run beside these
    projects: [
      // its modules and its browser's stand-in are read in once: a third of the time
      project(
        "together",
        tests.filter((path) => !isApart(path)),
        false,
      ),
      project("apart", tests.filter(isApart), true),
    ],
  },
});
