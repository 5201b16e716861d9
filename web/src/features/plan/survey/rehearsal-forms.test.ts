import { describe, expect, it } from "vitest";
import type { Survey } from "../queries";
import { FORMS, readList } from "./rehearsal-forms";

const survey = {
  visits: 4,
  sites: [],
  parts: { targets: [{ species: "wal", what: "marked", wanted: 400, from_mm: 250 }] },
  pilot: { catch_mean: 31.27, k: null },
} as unknown as Survey;

describe("what a rehearsal starts from", () => {
  it("takes the plan's own marks, visits and past catches", () => {
    expect(FORMS.marks.start(survey)).toMatchObject({ marks: 400, occasions: 4 });
    expect(FORMS.trend.start(survey)).toMatchObject({ mean: 31.3, k: 1.5, sites: 10 });
  });
  it("asks for every number that it sends", () => {
    for (const form of Object.values(FORMS)) {
      expect(form.specs.map(({ name }) => name)).toEqual(Object.keys(form.start(survey)));
      expect(Object.keys(form.start(survey))).toContain(form.sweep.choice);
    }
  });
  it("reads lists as they are typed", () => {
    expect(readList("50, 100 200;x 400")).toEqual([50, 100, 200, 400]);
    expect(readList("")).toEqual([]);
  });
});
