/** Tests of the computation, the wire, the server, the command line and, in a real browser, the interface. */
const swc = [
  "@swc/jest",
  {
    swcrc: false,
    module: { type: "commonjs" },
    jsc: {
      target: "es2022",
      parser: { syntax: "typescript", tsx: true, decorators: true },
      transform: { legacyDecorator: true, decoratorMetadata: true, react: { runtime: "automatic" } },
      keepClassNames: true,
    },
  },
];

/** Minutes long: run by `npm run nightly`, with everything else. */
const SLOW = [
  "/apps/server/test/lasting\\.test\\.ts$",
  "/e2e/src/addStage\\.test\\.ts$",
  "/e2e/src/addKinds\\.test\\.ts$",
  "/bench/src/known\\.test\\.ts$",
];

const esm = [
  "@swc/jest",
  { swcrc: false, module: { type: "commonjs" }, jsc: { target: "es2022", parser: { syntax: "ecmascript" } } },
];

const project = (displayName, folder, more = {}) => ({
  displayName,
  rootDir: __dirname,
  roots: [`<rootDir>/${folder}`],
  testEnvironment: "node",
  // The runner looks globals up through its sandbox, which makes every Math call many times slower; this one it hands in.
  sandboxInjectedGlobals: ["Math"],
  testPathIgnorePatterns: ["/node_modules/", "/dist/", "/\\.local/", ...(process.env.NIGHTLY ? [] : SLOW)],
  modulePathIgnorePatterns: ["/dist/", "/\\.local/"],
  transform: { "^.+\\.tsx?$": swc, "/node_modules/(clipper2-ts|jxl-oxide-wasm)/": esm },
  // Written as modules only, which the runner cannot require.
  transformIgnorePatterns: ["/node_modules/(?!(clipper2-ts|jxl-oxide-wasm)/)"],
  moduleNameMapper: {
    "^@hardline/core/(.*)$": "<rootDir>/packages/core/src/$1.ts",
    "^@hardline/(contract|intake|fonts)$": "<rootDir>/packages/$1/src/index.ts",
    "^@hardline/contract/(constants|rights|ticketFields)$": "<rootDir>/packages/contract/src/$1.ts",
    "^@hardline/demo$": "<rootDir>/demo/src/index.ts",
    "\\.css$": "<rootDir>/apps/web/src/testing/styles.ts",
  },
  ...more,
});

module.exports = {
  projects: [
    project("core", "packages/core"),
    project("contract", "packages/contract"),
    project("fonts", "packages/fonts"),
    project("intake", "packages/intake"),
    project("demo", "demo"),
    project("bench", "bench"),
    project("cli", "apps/cli"),
    project("web", "apps/web/src", { setupFiles: ["<rootDir>/apps/web/src/testing/setup.ts"] }),
    project("server", "apps/server"),
    project("e2e", "e2e/src"),
  ],
  testTimeout: 240000,
  maxWorkers: 2,
  reporters: ["default"],
};
