import { createTypeScriptImportResolver } from "eslint-import-resolver-typescript";
import importX from "eslint-plugin-import-x";
import reactHooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

/** Who may import whom; see docs/architecture.md. */
const forbid = (patterns, message, names = []) => [
  "error",
  { patterns: [{ group: patterns, message }], paths: names.map((name) => ({ name, message })) },
];

export default tseslint.config(
  { ignores: ["**/dist/**", "**/.local/**", "**/node_modules/**"] },
  ...tseslint.configs.recommended,
  {
    rules: {
      "@typescript-eslint/no-unused-vars": ["error", { argsIgnorePattern: "^_", varsIgnorePattern: "^_" }],
      "@typescript-eslint/consistent-type-imports": ["error", { fixStyle: "inline-type-imports" }],
      "@typescript-eslint/no-explicit-any": "error",
      eqeqeq: "error",
      "no-console": ["error", { allow: ["error"] }],
    },
  },
  {
    // No file needs, however indirectly, one that needs it. Types alone make no circle: nothing is left of them when it runs.
    files: ["**/*.{ts,tsx}"],
    plugins: { "import-x": importX },
    settings: {
      ...importX.flatConfigs.typescript.settings,
      "import-x/resolver-next": [createTypeScriptImportResolver()],
    },
    rules: { "import-x/no-cycle": ["error", { ignoreExternal: true }] },
  },
  {
    files: ["packages/core/src/**/*.ts"],
    ignores: ["**/*.test.ts", "**/testing/**"],
    rules: {
      "no-restricted-imports": forbid(
        ["@hardline/*", "node:*", "react*", "@nestjs/*"],
        "core is pure computation: no Node, no framework, nothing of ours",
        ["fs", "path", "crypto", "sharp", "pg", "kysely"],
      ),
      "no-restricted-globals": [
        "error",
        "window",
        "document",
        "process",
        "Buffer",
        "self",
        "navigator",
        "performance",
        "fetch",
      ],
      "no-restricted-properties": [
        "error",
        ...["random", "sin", "cos", "tan", "exp", "log", "pow", "cbrt", "atan2"].map((property) => ({
          object: "Math",
          property,
          message: "not the same bits in every engine; use maths/steady",
        })),
        { object: "Date", property: "now", message: "core has no clock" },
      ],
    },
  },
  {
    files: ["packages/contract/**/*.ts"],
    rules: {
      "no-restricted-imports": forbid(
        ["@hardline/server*", "@hardline/web*", "@hardline/cli*", "node:*"],
        "contract imports core only",
      ),
    },
  },
  {
    files: ["apps/**/*.{ts,tsx}", "demo/**/*.ts"],
    ignores: ["**/*.test.ts"],
    rules: {
      "no-restricted-imports": forbid(
        ["@hardline/server*", "@hardline/web*", "@hardline/cli*", "**/apps/*", "../../../*/src/*"],
        "nothing imports an app",
      ),
    },
  },
  {
    // Nest reads the types of parameters at run time, so classes named there must stay imported as values.
    files: ["apps/server/**/*.ts", "packages/contract/**/*.ts"],
    languageOptions: { parserOptions: { emitDecoratorMetadata: true, experimentalDecorators: true } },
  },
  {
    files: ["apps/web/**/*.{ts,tsx}"],
    plugins: { "react-hooks": reactHooks },
    rules: { ...reactHooks.configs.recommended.rules },
  },
  {
    files: ["apps/cli/**", "demo/**", "e2e/**", "bench/**", "scripts/**"],
    rules: { "no-console": "off" },
  },
);
