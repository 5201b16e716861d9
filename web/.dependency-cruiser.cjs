/** Floors of the screens: lower never sees higher, a feature is entered by its index, and nothing goes in circles. */
const FLOORS = [
  ["ui", "api"],
  ["offline"],
  ["session"],
  ["features/programme", "features/waters", "features/instruments", "features/map", "features/selection"],
  ["features/deck", "features/records"],
  ["features/course", "features/findings", "features/finder", "features/guide", "features/kit", "features/permits", "features/returns", "features/tags"],
  ["features/plan", "features/volunteers"],
  ["features/bench", "features/settings", "features/sign-in", "features/today", "features/waiting"],
  ["app"],
];
const under = (rooms) => `^src/(${rooms.join("|")})/`;
const TESTS = "\\.test\\.tsx?$|^src/testing/";

module.exports = {
  forbidden: [
    { name: "no-circles", severity: "error", from: { pathNot: TESTS }, to: { circular: true, viaOnly: { dependencyTypesNot: ["type-only"] } } },
    ...FLOORS.slice(0, -1).map((rooms, floor) => ({
      name: `floor-${floor + 1}-sees-none-above`,
      severity: "error",
      from: { path: under(rooms), pathNot: TESTS },
      to: { path: under(FLOORS.slice(floor + 1).flat()) },
    })),
    {
      name: "a-feature-is-entered-by-its-index",
      comment: "What an address may hold (…-search.ts) is read by the routes, which load the screens later.",
      severity: "error",
      from: { path: "^src/(app|features/([^/]+))/", pathNot: TESTS },
      to: { path: "^src/features/([^/]+)/.+", pathNot: ["^src/features/[^/]+/index\\.ts$", "^src/features/$2/", "-search\\.ts$"] },
    },
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    tsConfig: { fileName: "tsconfig.json" },
    tsPreCompilationDeps: true,
    includeOnly: "^src/",
  },
};
