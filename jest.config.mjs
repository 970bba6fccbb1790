/** @type {import("jest").Config} */
export default {
  // A slow machine is no fault of the code.
  testTimeout: 120_000,
  testEnvironment: "node",
  setupFiles: ["<rootDir>/scripts/papers-for-tests.ts"],
  testMatch: ["<rootDir>/src/**/*.test.ts", "<rootDir>/demo/**/*.test.ts"],
  transform: {
    "^.+\\.(t|j|m)sx?$": [
      "@swc/jest",
      {
        jsc: { parser: { syntax: "typescript", tsx: true }, target: "es2022" },
        module: { type: "commonjs" },
      },
    ],
  },
  transformIgnorePatterns: [
    "/node_modules/(?!(idb|comlink|nanoid|fast-png|iobuffer|image-size|culori|fake-indexeddb|rbush|quickselect)/)",
  ],
  moduleNameMapper: { "^@/(.*)$": "<rootDir>/src/$1" },
  extensionsToTreatAsEsm: [],
  maxWorkers: 2,
};
