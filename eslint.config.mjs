import next from "@next/eslint-plugin-next";
import hooks from "eslint-plugin-react-hooks";
import globals from "globals";
import tseslint from "typescript-eslint";

/** Arrows run one way: app → studio → worker → engine; storage, node and cli use the engine. */
const folders = ["app", "studio", "worker", "storage", "node", "cli", "engine"];
const mayUse = {
  engine: [],
  storage: ["engine"],
  worker: ["engine", "storage"],
  studio: ["engine", "storage", "worker"],
  node: ["engine"],
  cli: ["engine", "node"],
  app: ["engine", "studio", "node"],
};

const directions = Object.entries(mayUse).map(([folder, allowed]) => ({
  files: [`src/${folder}/**/*.{ts,tsx}`],
  rules: {
    "no-restricted-imports": [
      "error",
      {
        patterns: folders
          .filter((other) => other !== folder && !allowed.includes(other))
          .flatMap((other) => [
            {
              group: [`**/${other}/*`, `**/${other}/**`, `@/${other}/**`],
              message: `src/${folder} does not use src/${other}.`,
            },
          ])
          .filter(({ group }) => !(folder === "engine" && group[0] === "**/engine/*")),
      },
    ],
  },
}));

export default tseslint.config(
  {
    ignores: [
      "node_modules",
      ".next",
      "dist",
      "kernels",
      "demo/logs",
      "public",
      "next-env.d.ts",
      "test-results",
      "coverage",
      "*.tmp.*",
    ],
  },
  ...tseslint.configs.recommended,
  {
    languageOptions: { globals: { ...globals.node } },
    rules: {
      "@typescript-eslint/no-explicit-any": "error",
      "@typescript-eslint/no-unused-vars": [
        "error",
        { argsIgnorePattern: "^_", varsIgnorePattern: "^_" },
      ],
      "@typescript-eslint/consistent-type-imports": ["error", { fixStyle: "inline-type-imports" }],
      eqeqeq: "error",
      "prefer-const": "error",
      "no-console": ["error", { allow: ["error", "log"] }],
    },
  },
  {
    files: ["src/**/*.tsx", "src/studio/**/*.ts"],
    plugins: { "react-hooks": hooks, "@next/next": next },
    rules: {
      ...hooks.configs.recommended.rules,
      ...next.configs.recommended.rules,
      "no-restricted-syntax": [
        "error",
        {
          selector: "CallExpression[callee.name='useTable'][arguments.length=0]",
          message: "Panning replaces the state: ask for parts of it (useParts), or panels render.",
        },
      ],
    },
  },
  {
    files: ["src/engine/**/*.ts"],
    ignores: ["**/*.test.ts"],
    rules: {
      "no-restricted-globals": ["error", "window", "document", "navigator", "self", "postMessage"],
      "no-restricted-properties": [
        "error",
        { object: "Math", property: "random", message: "Chance comes from the stroke's seed." },
      ],
    },
  },
  ...directions,
);
