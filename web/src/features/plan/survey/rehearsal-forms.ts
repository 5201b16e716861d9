import type { Spec } from "../Numbers";
import type { Survey } from "../queries";

export type Kind = "marks" | "removal" | "trend";

interface Form {
  label: string;
  specs: Spec[];
  start: (survey: Survey) => Record<string, number>;
  /** What a sweep runs over by default: choice and values. */
  sweep: { choice: string; values: number[] };
  unit: string;
}

/** What a rehearsal of each kind asks, with values to start from. */
export const FORMS: Record<Kind, Form> = {
  marks: {
    label: "Marks, one closed water",
    specs: [
      { name: "population", label: "Assumed population size" },
      { name: "marks", label: "Fish marked" },
      { name: "catch", label: "Fish looked at" },
      { name: "occasions", label: "in so many catches" },
      { name: "heterogeneity", label: "Unequal catch (SD, log)" },
      { name: "tag_loss", label: "Marks lost (share)" },
      { name: "leaving", label: "Fish that leave (share)" },
      { name: "cost_mark", label: "Cost of a mark" },
      { name: "cost_catch", label: "Cost of a look" },
    ],
    start: (survey) => {
      const wanted = survey.parts.targets?.find(({ what }) => what === "marked")?.wanted ?? 300;
      return {
        population: 5000,
        marks: wanted,
        catch: 400,
        occasions: survey.visits,
        heterogeneity: 0.3,
        tag_loss: 0.05,
        leaving: 0,
        cost_mark: 14,
        cost_catch: 4,
      };
    },
    sweep: { choice: "marks", values: [50, 100, 150, 200, 300, 400, 500] },
    unit: "fish",
  },
  removal: {
    label: "Removal, pass by pass",
    specs: [
      { name: "population", label: "Fish in the stretch" },
      { name: "capture", label: "Caught in the first pass (share)" },
      { name: "passes", label: "Passes" },
      { name: "falling", label: "Catchability falls by (share)" },
      { name: "cost_pass", label: "Cost of a pass" },
    ],
    start: () => ({ population: 120, capture: 0.45, passes: 3, falling: 0.1, cost_pass: 180 }),
    sweep: { choice: "passes", values: [2, 3, 4, 5, 6] },
    unit: "fish",
  },
  trend: {
    label: "Trend of catch per effort",
    specs: [
      { name: "sites", label: "Sites each year" },
      { name: "years", label: "Years" },
      { name: "mean", label: "Catch a site, first year" },
      { name: "k", label: "Patchiness k (small: patchy)" },
      { name: "change", label: "Yearly change (share)" },
      { name: "site_sd", label: "Sites differ (SD, log)" },
      { name: "year_sd", label: "Years differ for all sites (SD, log)" },
      { name: "cost_site", label: "Cost of a site visit" },
    ],
    start: (survey) => ({
      sites: Math.max(2, survey.sites.length || 10),
      years: 6,
      mean: Number((survey.pilot.catch_mean ?? 12).toPrecision(3)),
      k: Number(Math.min(survey.pilot.k ?? 1.5, 100).toPrecision(3)),
      change: -0.1,
      site_sd: 0.4,
      year_sd: 0.1,
      cost_site: 150,
    }),
    sweep: { choice: "sites", values: [4, 6, 8, 12, 16, 24, 32] },
    unit: "a year",
  },
};

/** Numbers of a list as it is typed: "50, 100 200". */
export function readList(text: string): number[] {
  return text
    .split(/[\s;,]+/)
    .filter(Boolean)
    .map(Number)
    .filter(Number.isFinite);
}
