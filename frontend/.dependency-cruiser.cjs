/** The arrows of the front end: app → screens → sheet → sync → api, and parts for all. */
const SCREENS = "account|catalogue|challenges|exchange|lessons|people|progress|school";
const at = (folder) => `^src/(${folder})/`;

module.exports = {
  forbidden: [
    {
      name: "nothing-knows-the-app",
      severity: "error",
      from: { path: "^src/", pathNot: "^src/(app/|main\\.ts)" },
      to: { path: at("app") },
    },
    {
      name: "sheet-knows-no-screen",
      severity: "error",
      from: { path: at("sheet") },
      to: { path: at(SCREENS) },
    },
    {
      name: "sync-knows-the-api-only",
      severity: "error",
      from: { path: at("sync") },
      to: { path: at(`${SCREENS}|sheet|parts`) },
    },
    {
      name: "api-knows-nothing",
      severity: "error",
      from: { path: at("api") },
      to: { path: at(`${SCREENS}|sheet|sync|parts`) },
    },
    {
      name: "parts-know-the-api-only",
      severity: "error",
      from: { path: at("parts") },
      to: { path: at(`${SCREENS}|sheet|sync`) },
    },
    {
      name: "no-screen-of-another-room",
      severity: "error",
      from: { path: `^src/(${SCREENS})/` },
      to: { path: `^src/(${SCREENS})/.+\\.vue$`, pathNot: "^src/$1/" },
    },
    {
      name: "testing-is-for-tests",
      severity: "error",
      from: { pathNot: "^src/testing/|\\.test\\.ts$|\\.model\\.ts$" },
      to: { path: at("testing") },
    },
    {
      name: "no-circles",
      severity: "error",
      from: {},
      to: { circular: true },
    },
    {
      name: "nothing-lies-about",
      severity: "error",
      from: { orphan: true, pathNot: "\\.d\\.ts$" },
      to: {},
    },
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: "tsconfig.json" },
    enhancedResolveOptions: { extensions: [".ts", ".vue", ".js"] },
  },
};
