import reactHooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

const inside = (folder, forbidden, message) => ({
  files: [`src/${folder}/**/*.{ts,tsx}`],
  rules: {
    "no-restricted-imports": [
      "error",
      { patterns: forbidden.map((name) => ({ group: [`**/${name}`, `**/${name}/**`], message })) },
    ],
  },
});

const screens = ["signin", "shelf", "car", "loads", "pan", "slosh", "tocome"];

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
    },
  },
  // imports point one way: app -> screens -> numbers, scene, plots -> drawing -> parts -> api
  inside("api", ["parts", "drawing", "plots", "scene", "screens", "app"], "api is at the bottom"),
  inside("parts", ["drawing", "plots", "scene", "screens", "app"], "parts know only the api"),
  inside("drawing", ["plots", "scene", "screens", "app"], "drawings know only parts and the api"),
  inside("scene", ["plots", "screens", "app"], "the scene knows drawings, parts and the api"),
  inside("plots", ["scene", "screens", "app"], "plots know drawings, parts and the api"),
  inside("numbers", ["scene", "plots", "screens", "app"], "the build's numbers know only parts"),
  ...screens.map((screen) =>
    inside(
      `screens/${screen}`,
      ["app", ...screens.filter((other) => other !== screen)],
      "a screen imports no other screen and not the frame",
    ),
  ),
);
