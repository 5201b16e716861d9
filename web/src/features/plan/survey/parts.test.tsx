import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { createMemoryHistory, createRootRoute, createRouter, RouterProvider } from "@tanstack/react-router";
import { act, type ReactNode } from "react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { ours } from "@/api/testing";
import { change, field, leave, press, show } from "@/testing/screen";
import type { Survey } from "../queries";
import { DesignPart } from "./DesignPart";
import { GoPart } from "./GoPart";
import { KitPart } from "./KitPart";
import { SitesPart } from "./SitesPart";

vi.mock("@/session", () => ({
  useHere: () => ({ membership: { programme: "p1" }, person: { id: "me", name: "Ada" }, may: () => true }),
}));

const survey = {
  id: "s1",
  programme: "p1",
  name: "Marks, spring",
  water: "w1",
  water_name: "Long River",
  question: "marks",
  question_label: "Abundance by marks",
  species: ["wal"],
  gear: "boat_electrofishing",
  more_gears: [],
  first: "2027-06-01",
  last: "2027-06-22",
  visits: 4,
  effort_s: 900,
  revisit_years: 5,
  parts: {
    layout: { layout: "systematic", from_km: 0, to_km: 10, site_length_m: 1000, gap_m: 500, n: null, seed: 3 },
    bath: {
      agent: "clove-oil",
      purpose: "measure",
      target_mg_l: 30,
      shape: "box",
      a_cm: 50,
      b_cm: 40,
      fill_cm: 30,
      refills: 3,
      cap_ml: 5,
    },
    limits: { well_l: 250, well_fish: 12, air_goal_s: 60 },
    tags: { kind: "pit", n: 20, question: "abundance" },
    deep: { lets_go_m: null, lets_go_second_m: null, lets_go_third_m: null, pull_m: null },
    targets: [{ species: "wal", what: "marked", wanted: 410, from_mm: 250 }],
    crew: ["Ada"],
    emergency: { position: "Landing", access: "", numbers: "" },
  },
  sites: [
    { number: 1, start_m: 500, end_m: 1500, zone: "Lower", moved: "", lon: 0.01, lat: 0 },
    { number: 2, start_m: 2000, end_m: 3000, zone: "Lower", moved: "log jam", lon: 0.02, lat: 0 },
  ],
  days: [
    { first: "2027-06-01", last: "2027-06-01", what: "visit", words: "Visit 1 of 4" },
    { first: "2027-06-10", last: "2027-06-20", what: "closed", words: "Closed by rule: Ice-out" },
  ],
  against: ["An electrofishing outing never goes with fewer than two people; 1 named."],
  kit: [{ item: "sling", n: 2 }],
  checklists: [
    { code: "boat", version: 1, title: "Boat" },
    { code: "dam", version: 1, title: "Near a dam" },
  ],
  more_checklists: [
    { code: "deep_water", version: 1, title: "Fish from deep water" },
    { code: "surgery", version: 1, title: "Surgery" },
  ],
  progress: {
    outings: [{ id: "o1", name: "Marks, 01 Jun", date: "2027-06-01", state: "open", unsigned: 1 }],
    sites_planned: 8,
    sites_done: 1,
    effort_planned_s: 7200,
    effort_done_s: 600,
    targets: [
      { species: "wal", what: "marked", wanted: 410, from_mm: 250, zone: "", month: 4, per_visit: 103, done: 12 },
    ],
    weeks: [{ week: "2027-05-31", fish: 40, marks: 12, effort_s: 600, sites: 1 }],
  },
  pilot: { species: "walleye", runs: 0, fish: 0 },
} as unknown as Survey;

const reach = {
  water: "w1",
  name: "Long River",
  kind: "river",
  length_m: 10_000,
  line: [
    [0, 0],
    [0.09, 0],
  ],
  along_m: [0, 10_000],
  zones: [{ kind: "dam", name: "Weir", start_m: 5000, end_m: 6000, note: "telephone" }],
  sites: [{ id: "x", name: "K1", lon: 0.01, lat: 0, along_m: 1000, fish: 40, runs: 3 }],
};
const kit = {
  bath: {
    agent: "Clove oil",
    stock_mg_ml: 105,
    litres: 60,
    low_mg_l: 20,
    high_mg_l: 60,
    stock_ml: 17.14,
    caps: 3.43,
    spare_ml: 77,
    note: "Not for food fish.",
    caution: "The licensed person decides.",
  },
  limits: { well_fish: [{ fish_g: 300, most: 12 }], lines: ["Air: 60 s."] },
  bath_refused: "",
  tags: null,
  tags_refused: "A tag of 0 g.",
  deep: { water: "fresh", rows: [], devices: [] },
};
const options = {
  species: [{ code: "wal", name: "walleye" }],
  outings: [],
  waters: [],
  gears: [
    { code: "boat_electrofishing", label: "Boat electrofishing" },
    { code: "angling", label: "Angling" },
  ],
};
const plan = {
  surveys: [],
  seasons: [],
  people: ["Ada", "Bo"],
  permits: [{ id: "1", holder: "Ada", name: "Leader", last: "2028-01-01", state: "valid" }],
};

let sent: { url: string; body: unknown }[];
let refuse: { status: number; body: object } | null;

beforeEach(() => {
  sent = [];
  refuse = null;
  vi.stubGlobal("fetch", async (request: Request) => {
    const { pathname } = new URL(request.url);
    if (request.method === "POST") {
      const text = await request.text();
      sent.push({ url: pathname, body: text ? JSON.parse(text) : null });
      if (refuse) return ours(refuse.body, refuse.status);
    }
    const answer = /\/(reach|zones)$/.test(pathname)
      ? reach
      : pathname.endsWith("/kit")
        ? kit
        : pathname.endsWith("/plan")
          ? plan
          : pathname.endsWith("/selection-options")
            ? options
            : pathname.endsWith("/layers")
              ? [{ water: "w2", name: "Tarn", kind: "lake", line: reach.line }]
              : pathname.endsWith("/waters")
                ? []
                : survey;
    return ours(answer);
  });
});

async function shown(node: ReactNode) {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const router = createRouter({
    routeTree: createRootRoute({ component: () => node }),
    history: createMemoryHistory(),
  });
  await act(() => router.load());
  show(
    <QueryClientProvider client={client}>
      <RouterProvider router={router as never} />
    </QueryClientProvider>,
  );
  await settle();
}

/** Requests answered and shown. */
const settle = () => act(() => new Promise((resolve) => setTimeout(resolve, 30)));
const words = () => document.body.textContent ?? "";

describe("question and targets", () => {
  it("says what the whole costs in current, and what a visit is to bring", async () => {
    await shown(<DesignPart survey={survey} />);
    expect(words()).toContain("2 sites × 4 visits × 15 min: 2.0 h of current on in all");
    expect(words()).toContain("410 wal marked, from 250 mm, in April103 a visit of that month");
    expect(words()).toContain("! Closed by rule: Ice-out");
  });
  it("sends a change when a figure is left", async () => {
    await shown(<DesignPart survey={survey} />);
    change(field("Visits"), "6");
    leave(field("Visits"));
    await settle();
    expect(sent[0]).toEqual({ url: "/api/v1/surveys/s1", body: { visits: 6 } });
  });
  it("gives another name, not an empty one, and another gear", async () => {
    await shown(<DesignPart survey={survey} />);
    change(field("Name"), "  ");
    leave(field("Name"));
    change(field("Name"), "Marks, autumn");
    leave(field("Name"));
    change(field("Gear"), "angling");
    await settle();
    expect(sent.map(({ body }) => body)).toEqual([{ name: "Marks, autumn" }, { gear: "angling" }]);
  });
  it("adds and takes out targets", async () => {
    await shown(<DesignPart survey={survey} />);
    change(field("How many"), "80");
    change(field("In the month"), "4");
    press("Add");
    await settle();
    expect(sent[0]!.body).toMatchObject({
      parts: {
        targets: [{ wanted: 410 }, { species: "wal", what: "measured", wanted: 80, from_mm: null, zone: "", month: 4 }],
      },
    });
    press("Delete");
    await settle();
    expect(sent[1]!.body).toEqual({ parts: { targets: [] } });
  });
});

describe("reach and sites", () => {
  it("draws map and strip and lists the sites", async () => {
    await shown(<SitesPart survey={survey} />);
    expect(document.querySelector('[aria-label="Map of Long River with 2 planned sites"]')).not.toBeNull();
    expect(document.querySelector('[aria-label="Long River pulled straight, 10.0 km"]')?.textContent).toContain("Weir");
    expect(words()).toContain("km 2.00 to 3.00moved");
  });
  it("moves a site with a reason, and shows why it may not", async () => {
    await shown(<SitesPart survey={survey} />);
    act(() => document.querySelectorAll<HTMLButtonElement>("ol button")[0]!.click());
    await settle();
    refuse = { status: 422, body: { code: "site_closed", message: "It would touch 'Weir'.", field: "start_m" } };
    change(field("Start it at (km)"), "5.2");
    change(field("Reason for the move"), "no access");
    press("Move the site");
    await settle();
    expect(sent[0]).toEqual({
      url: "/api/v1/surveys/s1/sites/move",
      body: { number: 1, start_m: 5200, reason: "no access" },
    });
    expect(document.querySelector("[role=alert]")?.textContent).toBe("It would touch 'Weir'.");
  });
  it("adds a stretch to keep off about a point", async () => {
    await shown(<SitesPart survey={survey} />);
    change(field("Called"), "Rapids");
    change(field("At (km)"), "2");
    press("Add it");
    await settle();
    expect(sent[0]!.body).toMatchObject({
      zones: [{ name: "Weir" }, { kind: "no_go", name: "Rapids", start_m: 1600, end_m: 2400 }],
    });
  });
});

describe("baths and tags", () => {
  it("gives the recipe in the crew's own measure, and a refusal in words", async () => {
    await shown(<KitPart survey={survey} />);
    expect(document.querySelector("[data-testid=recipe]")?.textContent).toBe(
      "17.1 mL of stock into 60 L gives 30 mg/L: 3.4 of the crew's 5 mL.",
    );
    expect(words()).toContain("! A tag of 0 g.");
    expect(words()).not.toContain("Battery (mAh)"); // a PIT tag has none
  });
  it("asks for the sizes of the tank that was chosen", async () => {
    await shown(
      <KitPart
        survey={{ ...survey, parts: { ...survey.parts, bath: { ...survey.parts.bath!, shape: "cylinder" } } }}
      />,
    );
    expect(words()).toContain("Diameter (cm)");
    expect(words()).not.toContain("Width (cm)");
  });
});

describe("going out", () => {
  it("names what stands against it, and asks for a reason only then", async () => {
    await shown(<GoPart survey={survey} />);
    expect(words()).toContain("! An electrofishing outing never goes with fewer than two people");
    expect(words()).not.toContain("Why it shall go out all the same");
    refuse = { status: 422, body: { code: "plan_incomplete", message: "Put it right.", field: "override" } };
    press("Make the outing");
    await settle();
    change(field("Reason to go out anyway (recorded)"), "agreed");
    refuse = null;
    press("Make the outing");
    await settle();
    expect(sent.map(({ body }) => body)).toEqual([
      { id: expect.any(String), date: "2027-06-01", override: "" },
      { id: (sent[0]!.body as { id: string }).id, date: "2027-06-01", override: "agreed" },
    ]);
  });
  it("adds to the crew by name and takes off", async () => {
    await shown(<GoPart survey={survey} />);
    expect(words()).toContain("Leader to 1 Jan 2028");
    change(field("Name"), "Bo");
    press("Add");
    await settle();
    press("Remove");
    await settle();
    expect(sent.map(({ body }) => body)).toEqual([{ parts: { crew: ["Ada", "Bo"] } }, { parts: { crew: [] } }]);
  });
  it("adds a checklist that is not asked for by itself", async () => {
    await shown(<GoPart survey={{ ...survey, parts: { ...survey.parts, checklists: ["deep_water"] } } as Survey} />);
    const [deep, surgery] = document.querySelectorAll<HTMLInputElement>("input[type=checkbox]");
    expect([deep!.checked, surgery!.checked]).toEqual([true, false]);
    act(() => surgery!.click());
    act(() => deep!.click());
    await settle();
    expect(sent.map(({ body }) => body)).toEqual([
      { parts: { checklists: ["deep_water", "surgery"] } },
      { parts: { checklists: [] } },
    ]);
  });
  it("shows planned against done, and what is still to be signed", async () => {
    await shown(<GoPart survey={survey} />);
    expect(words()).toContain("Site visits1 of 8");
    expect(words()).toContain("wal marked, from 250 mm, in April12 of 410");
    expect(words()).toContain("! 1 checklist to sign on the Deck");
  });
});
