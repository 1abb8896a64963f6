import { readdirSync } from "node:fs";
import reactHooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

const foldersOf = (place) =>
  readdirSync(new URL(`src/${place}`, import.meta.url), { withFileTypes: true })
    .filter((entry) => entry.isDirectory())
    .map(({ name }) => name);

// imports point one way: each folder knows those after it, and what it must not know is all others
const KNOWS = {
  app: ["pages", "document", "scene", "plots", "drawing", "parts", "api", "offline"],
  pages: ["document", "plots", "drawing", "parts", "api", "offline"],
  stages: ["document", "scene", "plots", "drawing", "parts", "api", "offline"],
  scene: ["drawing", "parts", "api"],
  plots: ["drawing", "parts", "api"],
  document: ["drawing", "parts", "api"],
  drawing: ["parts", "api"],
  parts: ["api", "offline"],
  api: ["offline"],
  offline: [],
  testing: ["document", "drawing", "parts", "api", "offline"],
};

const folders = foldersOf(".");
for (const folder of folders)
  if (!KNOWS[folder])
    throw new Error(`eslint.config.js does not say what src/${folder} may import`);

const rule = (files, forbidden, message) => ({
  files: [`src/${files}/**/*.{ts,tsx}`],
  rules: {
    "no-restricted-imports": [
      "error",
      { patterns: forbidden.map((path) => ({ group: [path, `${path}/**`], message })) },
    ],
  },
});

/** A folder in which none of its own folders knows another. */
const apart = (place) => {
  const all = foldersOf(place);
  return all.map((one) =>
    rule(
      `${place}/${one}`,
      [
        ...folders.filter((other) => !mayKnow(place, other)).map((other) => `**/${other}`),
        ...all.filter((other) => other !== one).map((other) => `../${other}`),
      ],
      `${place}/${one} knows ${KNOWS[place].join(", ")}, and no other of ${place}`,
    ),
  );
};

const mayKnow = (folder, other) =>
  other === folder || other === "testing" || KNOWS[folder].includes(other);

/** Components of at most 150 lines, other functions of at most 60. */
const sizes = {
  create(context) {
    const look = (node) => {
      const name = node.id?.name ?? node.parent.id?.name ?? node.parent.key?.name ?? "";
      const lines = node.loc.end.line - node.loc.start.line + 1;
      const most = /^[A-Z]/.test(name) ? 150 : 60;
      if (lines > most)
        context.report({ node, message: `${name || "this"} has ${lines} lines; ${most} at most` });
    };
    return {
      FunctionDeclaration: look,
      FunctionExpression: look,
      ArrowFunctionExpression: look,
    };
  },
};

export default tseslint.config(
  { ignores: ["dist", "node_modules", "src/api/schema.d.ts", "eslint.config.js"] },
  ...tseslint.configs.strictTypeChecked,
  {
    languageOptions: { parserOptions: { projectService: true } },
    plugins: { "react-hooks": reactHooks },
    rules: {
      ...reactHooks.configs.recommended.rules,
      "@typescript-eslint/restrict-template-expressions": ["error", { allowNumber: true }],
      "@typescript-eslint/no-confusing-void-expression": ["error", { ignoreArrowShorthand: true }],
      // a fifth of all the time; versions are pinned, so it can only change with one of them:
      // `npm run lint:deprecated`, and `./bilge test --long`
      "@typescript-eslint/no-deprecated": "off",
      "max-lines": ["error", 400],
      "max-params": ["error", 8],
    },
  },
  {
    files: ["src/**/*.{ts,tsx}"],
    ignores: ["**/*.test.{ts,tsx}"],
    plugins: { house: { rules: { sizes } } },
    rules: { "house/sizes": "error" },
  },
  ...folders
    .filter((folder) => folder !== "stages" && folder !== "pages")
    .map((folder) =>
      rule(
        folder,
        folders.filter((other) => !mayKnow(folder, other)).map((other) => `**/${other}`),
        `${folder} knows ${KNOWS[folder].join(", ") || "nothing above it"}`,
      ),
    ),
  ...apart("stages"),
  ...apart("pages"),
);
