import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, type ReactNode } from "react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { ours } from "@/api/testing";
import { change, field, leave, press, show } from "@/testing/screen";
import type { Survey } from "../queries";
import { EnoughPart } from "./EnoughPart";
import { RehearsalPart } from "./RehearsalPart";
import { SettingsPart } from "./SettingsPart";

vi.mock("@/session", () => ({
  useHere: () => ({ membership: { programme: "p1" }, person: { id: "me", name: "Ada" }, may: () => true }),
}));
// a chart needs a real page; what it is given is enough here
vi.mock("@/ui/Chart", () => ({
  axis: () => ({}),
  Chart: ({ label, data }: { label: string; data: { rows: unknown[] } }) => `[${label}: ${data.rows.length} rows]`,
}));

const survey = {
  id: "s1",
  programme: "p1",
  question: "marks",
  gear: "boat_electrofishing",
  more_gears: [],
  visits: 2,
  water_name: "Long River",
  sites: [],
  parts: {
    targets: [{ species: "wal", what: "marked", wanted: 250, from_mm: null }],
    electro: {
      unit: "u1",
      goal_w: 2600,
      pulse_hz: 30,
      pulse_width_ms: 4,
      conductivity: 178,
      read_as: "ambient",
      temperature_c: 9,
      limits: "",
      anode_radius_cm: 15,
    },
  },
  pilot: {
    selection: { species: "wal", water: ["w1"] },
    species: "walleye",
    runs: 138,
    fish: 4442,
    mean_mm: 380,
    sd_mm: 131.6,
    psd: 0.63,
    per: "hour of current",
    cpue: 146,
    cpue_low: 136,
    cpue_high: 157,
    catch_mean: 32.41,
    catch_variance: 185.2,
    k: 3,
  },
} as unknown as Survey;

const rowOf = (us_cm: number, problems: string[] = [], today = false) => ({
  us_cm,
  volts: 241,
  amps: 11.3,
  watts: 2726,
  mean_watts: 327,
  ratio: 1.05,
  problems,
  today,
});
const unit = {
  id: "u1",
  name: "Boat",
  gear: "boat_electrofishing",
  max_volts: 600,
  max_amps: 16,
  max_watts: 4500,
  max_hz: 120,
  max_duty: 0.6,
  r100_ohm: 38,
};
const settings = {
  unit,
  ambient_us_cm: 178,
  specific_us_cm: 244,
  duty: 0.12,
  goal: rowOf(178, ["The goal of 11.3 A is 1.3 A above 10 A."], true),
  table: [rowOf(106), rowOf(178, [], true), rowOf(321, ["x"])],
  ramp: [{ volts: 120, watch: "Are fish drawn?" }],
  advice_hz: 30,
  advice: "Large fish first.",
  limits: "",
  limits_note: "",
  rings: [{ v_cm: 0.1, cm: 190 }],
  caution: "Electricity and water kill.",
};
const done = (marks: number, within: number, useless: number) => ({
  design: { marks },
  truth: 5000,
  bias: -0.3,
  median: 4000,
  low: 2000,
  high: 7000,
  coverage: 0.62,
  coverage_low: 0.59,
  coverage_high: 0.65,
  useless,
  within,
  cost: marks * 10,
  counts: [3, 7],
  edges: [2000, 4500, 7000],
});
const enough = {
  sites: 5,
  fish_psd: 140,
  fish_mean: 672,
  fish_difference: 171,
  fish_mortality: 59,
  marks: [10, 100],
  curves: [{ name: "management", accuracy: 0.25, catch: [4000, null] }],
};

let sent: { url: string; body: Record<string, unknown> }[];
let rehearsals: object[];
let refuse: object | null;

beforeEach(() => {
  sent = [];
  rehearsals = [];
  refuse = null;
  vi.stubGlobal("fetch", async (request: Request) => {
    const { pathname } = new URL(request.url);
    if (request.method === "POST") {
      sent.push({ url: pathname, body: JSON.parse(await request.text()) });
      if (refuse) return ours(refuse, 422);
    }
    const last = pathname.split("/").at(-1)!;
    const answers: Record<string, unknown> = {
      settings,
      protocol: { values: {} },
      enough,
      rehearsals,
      "selection-options": {
        species: [
          { code: "wal", name: "walleye" },
          { code: "yep", name: "yellow perch" },
        ],
        outings: [],
        waters: [],
        gears: [],
      },
      units: { units: [unit], r100_ohm: 37, readings: [{ r100_ohm: 36 }, { r100_ohm: 37 }, { r100_ohm: 50 }] },
    };
    return ours(answers[last] ?? survey);
  });
});

async function shown(node: ReactNode) {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  show(<QueryClientProvider client={client}>{node}</QueryClientProvider>);
  await settle();
}

const settle = () => act(() => new Promise((resolve) => setTimeout(resolve, 30)));
const words = () => document.body.textContent ?? "";

describe("settings", () => {
  it("say volts, amps and watts for today, and what the unit cannot", async () => {
    await shown(<SettingsPart survey={survey} />);
    for (let waits = 0; waits < 60 && !document.querySelector("[data-testid=goal]"); waits++) await settle();
    expect(document.querySelector("[data-testid=goal]")?.textContent).toBe(
      "Today at 178 µS/cm: 241 V, 11.3 A, 2726 W peak (327 W mean at 12 % duty).",
    );
    expect(words()).toContain("! The goal of 11.3 A is 1.3 A above 10 A.");
    expect(words()).toContain("3 past boat runs say 37 ohm (median)");
    expect(words()).toContain("Electricity and water kill.");
    expect([...document.querySelectorAll("tbody tr")].map((row) => row.lastChild?.textContent)).toEqual([
      "can",
      "today",
      "! runs out",
    ]);
  });
  it("start a new unit from the resistance of past runs", async () => {
    await shown(<SettingsPart survey={survey} />);
    press("Add unit");
    expect(document.querySelector<HTMLInputElement>("[name=r100_ohm]")!.value).toBe("37");
  });
});

describe("how much is enough", () => {
  it("starts from the water's own past and answers in numbers", async () => {
    await shown(<EnoughPart survey={survey} />);
    expect(words()).toContain("From 138 past runs and 4,442 measured walleye: 146 per hour of current (136-157)");
    expect(field("PSD expected").value).toBe("63");
    expect(words()).toContain("sites for a CV of 20 %5");
    expect(words()).toContain("handled fish to tell 5 % deaths from 15 % (power 80 %)59");
    expect(words()).toContain("[Marks and catch for three accuracies: 2 rows]");
  });
  it("starts from past data of another selection", async () => {
    await shown(<EnoughPart survey={survey} />);
    change(field("Species"), "yep");
    change(field("First day"), "2020-01-01");
    await settle();
    expect(sent.map(({ body }) => body)).toEqual([
      { parts: { pilot: { species: "yep", water: ["w1"] } } },
      { parts: { pilot: { species: "wal", water: ["w1"], first: "2020-01-01" } } },
    ]);
  });
});

describe("rehearsal", () => {
  const row = {
    id: "r1",
    kind: "marks",
    design: { population: 5000 },
    choice: "",
    values: [],
    replicates: 1000,
    seed: 1,
    made_at: "2027-01-01T00:00:00Z",
    estimate: [1.5],
    job: null,
  };

  it("starts from the plan's own marks and sends what stands in the form", async () => {
    await shown(<RehearsalPart survey={survey} />);
    expect(words()).toContain("Nothing is rehearsed yet.");
    expect(field("Fish marked").value).toBe("250");
    change(field("Fish looked at"), "600");
    leave(field("Fish looked at"));
    change(field("Times"), "500");
    leave(field("Times"));
    press("Rehearse");
    await settle();
    expect(sent[0]!.body).toMatchObject({
      kind: "marks",
      choice: "",
      values: [],
      replicates: 500,
      design: { marks: 250, catch: 600, occasions: 2 },
    });
    press("Sweep");
    await settle();
    expect(sent[1]!.body).toMatchObject({ choice: "marks", values: [50, 100, 150, 200, 300, 400, 500] });
  });
  it("says what was found, coverage and uselessness", async () => {
    rehearsals = [
      { ...row, result: { sentence: "95 of 100 such surveys would answer.", designs: [done(250, 0.3, 0.4)] } },
    ];
    await shown(<RehearsalPart survey={survey} />);
    expect(words()).toContain("95 of 100 such surveys would answer.");
    expect(words()).toContain("holds the truth in 62 % (59 % to 65 %)");
    expect(words()).toContain("! useless in 40 %");
    expect(words()).toContain("[Answers of the rehearsed surveys against the truth: 2 rows]");
  });
  it("draws a sweep under its sentence", async () => {
    const designs = [done(50, 0.3, 0.9), done(300, 0.84, 0.1), done(500, 0.9, 0)];
    rehearsals = [{ ...row, choice: "marks", result: { sentence: "From fish marked 300 on.", designs } }];
    await shown(<RehearsalPart survey={survey} />);
    expect(words()).toContain("1,000 surveys at each of 3 values; seed 1");
    expect(words()).toContain("From fish marked 300 on.");
    expect(words()).toContain("[Rehearsed surveys by fish marked: 3 rows]");
  });
  it("asks before it takes long, and tells what each point costs", async () => {
    const error = {
      code: "takes_long",
      message: "This would take about 2.5 hours on one process.",
      field: "replicates",
    };
    const job = { id: "j", title: "", state: "failed" as const, done: 0, total: 0, stop_asked: false, error };
    rehearsals = [{ ...row, choice: "marks", values: [50, 300], estimate: [1.25, 9000], result: null, job }];
    await shown(<RehearsalPart survey={survey} />);
    expect(words()).toContain("about 2.5 hours");
    expect(words()).toContain("About 151 min on one process: 50 1.3 s, 300 150 min.");
    press("Run it all the same");
    await settle();
    expect(sent.at(-1)!.body).toMatchObject({ confirmed: true, choice: "marks", values: [50, 300] });
  });
});
