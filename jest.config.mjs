/** @type {import("jest").Config} */
export default {
  // A slow machine is no fault of the code.
  testTimeout: 120_000,
  testEnvironment: "node",
  // Tests run in a context of their own, where every look-up of a global is slow; these come with the module.
  sandboxInjectedGlobals: [
    "Math",
    "Number",
    "Object",
    "Array",
    "Map",
    "Set",
    "Float32Array",
    "Float64Array",
    "Int32Array",
    "Uint8Array",
    "Uint16Array",
    "Error",
  ],
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
