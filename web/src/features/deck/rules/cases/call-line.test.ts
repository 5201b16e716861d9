import { describe, expect, it } from "vitest";
import { capture, SPECIES, UNITS } from "@/testing/deck";
import callWords from "../../../../../../tests/shared/call-words.json";
import { amendedCall, type Call, callText, readCall, repeatedLine } from "../call-line";
import { LEAVING_WORDS } from "../leaving";

const settings = { species: SPECIES, units: UNITS, lengthUnit: "mm", massUnit: "g" };
const read = (line: string, standing: string | null = null, change: object = {}) =>
  readCall(line, { ...settings, ...change }, standing);
const fish = ({ species, length, mass, sex }: Call) => [species, length?.value ?? null, mass?.value ?? null, sex];

describe("order is free where it can be read one way only", () => {
  it.each([
    ["wal 437 890 f", ["wal", 437, 890, "f"]],
    ["f wal 437 890", ["wal", 437, 890, "f"]],
    ["437 890 wal f", ["wal", 437, 890, "f"]],
    ["wal 890g 437", ["wal", 437, 890, ""]],
    ["wal 0.89kg 43.7cm m", ["wal", 437, 890, "m"]],
    ["WAL 437", ["wal", 437, null, ""]],
    ["walleye 437", ["wal", 437, null, ""]],
    ["yellow perch 200 95", ["yep", 200, 95, ""]],
    ["perch 200 95", ["yep", 200, 95, ""]],
    ["northern pike 720", ["nop", 720, null, ""]],
    ["pike 720", ["nop", 720, null, ""]],
    ["wal 18 1/4 in 2lb 7oz f", ["wal", 463.6, 1105.63, "f"]],
    ["wal 2lb 7oz", ["wal", null, 1105.63, ""]],
    ['wal 17 1/4"', ["wal", 438.1, null, ""]],
    ["wal 437, 890, f", ["wal", 437, 890, "f"]],
    ["wal 437 m", ["wal", 437, null, "m"]],
  ])("%s", (line, expected) => {
    const call = read(line);
    expect(call.problems).toEqual([]);
    expect(fish(call)).toEqual(expected);
  });
});

it("keeps the species until another is called", () => {
  expect(fish(read("437", "wal"))).toEqual(["wal", 437, null, ""]);
  expect(read("437", "wal").speciesCalled).toBe(false);
  expect(fish(read("yep 200", "wal"))).toEqual(["yep", 200, null, ""]);
});

it("reads bare numbers in the units of the outing", () => {
  const call = read("wal 18.25 2.5", null, { lengthUnit: "in", massUnit: "lb" });
  expect(fish(call)).toEqual(["wal", 463.6, 1133.98, ""]);
});

it("marks estimates, counts, notes and length types", () => {
  expect(read("wal ~31in").length).toMatchObject({ value: 787.4, estimated: true, text: "~31in" });
  expect(read("bur x14")).toMatchObject({ species: "bur", count: 14, length: null, problems: [] });
  expect(read("wal 437; scar on flank, f")).toMatchObject({ note: "scar on flank, f", sex: "" });
  expect(read("wal 430 fl").lengthType).toBe("FL");
});

describe("says what it cannot read", () => {
  it.each([
    ["wal 437 890 3", /'3' is one number too many/],
    ["wal 470mm 46cm", /'46cm' is a second length/],
    ["wal -437", /above zero/],
    ["wal 0", /above zero/],
    ["wal 1e400", /1e400|unit 'e'/],
    ["wal abc", /'abc' is no species/],
    ["wal 437 x3", /belongs to one fish/],
    ["wal 1,234", /two ways/],
    ["wal 12abc", /abc/],
    ["wal NaN", /'NaN' is no species/],
  ])("%s", (line, message) => {
    expect(read(line).problems[0]).toMatch(message);
  });
});

it("knows when nothing was called", () => {
  expect(read("   ").empty).toBe(true);
  expect(read("wal").empty).toBe(false);
  expect(read("wal")).toMatchObject({ species: "wal", speciesCalled: true, length: null });
});

it("does not take a shared beginning for a species", () => {
  const two = [
    { ...SPECIES[0]!, code: "lwf", name: "lake whitefish" },
    { ...SPECIES[1]!, code: "lat", name: "lake trout" },
  ];
  expect(read("lake 300", null, { species: two })).toMatchObject({ species: null });
  expect(read("lake trout 300", null, { species: two })).toMatchObject({ species: "lat" });
});

describe("a kept fish is called again by its own text", () => {
  it.each([
    capture("a", { sex: "f" }),
    capture("b", { length_text: "18 1/4 in", length_unit: "in", mass_text: "", mass_g: null }),
    capture("c", { length_text: "", length_mm: null, mass_text: "950" }),
    capture("d", { length_text: "~31in", length_unit: "in", mass_text: "2lb 7oz", mass_unit: "lb", note: "scar" }),
    capture("e", { length_text: "", length_mm: null, mass_text: "", mass_g: null, count: 14 }),
  ])("$length_text $mass_text", (kept) => {
    const call = read(callText(kept, { length_unit: "mm", mass_unit: "g" }));
    expect(call.problems).toEqual([]);
    expect(call.length?.text ?? "").toBe(kept.length_text);
    expect(call.mass?.text.replace(" g", "") ?? "").toBe(kept.mass_text);
    expect([call.species, call.count, call.note]).toEqual([kept.species, kept.count, kept.note]);
  });
});

describe("marks, scans and releases", () => {
  it("takes PIT and T-bar numbers beside the measures, in any order", () => {
    const call = read("wal 999000000012345 437 #w1001 890");
    expect(call.marks).toEqual([
      { kind: "pit", number: "999000000012345" },
      { kind: "tbar", number: "W1001" },
    ]);
    expect(fish(call)).toEqual(["wal", 437, 890, ""]);
  });

  it("takes a number once however often it is read", () => {
    expect(read("999000000012345 999000000012345").marks).toHaveLength(1);
  });

  it.each(["99900000001234", "9990000000123456"])("refuses %s, which has not 15 digits", (number) => {
    const call = read(`wal 437 ${number}`);
    expect(call.problems[0]).toMatch(/15 digits; got 1[46]/);
    expect(call.marks).toEqual([]);
  });

  it("hears that nothing was found, and how the fish left", () => {
    expect(read("wal 437 none dead")).toMatchObject({ scanned: "none", release: { fate: "dead" }, problems: [] });
    expect(read("wal 437").release).toBeNull();
    expect(read("wal 437 r2").release).toEqual({ fate: "released", strength: 2 });
    expect(read("wal 437 weak").release).toEqual({ fate: "released", word: "weak" });
    expect(read("wal 437 pen").problems).toEqual(["'pen' is no species, number, unit or sex."]);
    expect(read("wal 437 pen", null, { takenTo: ["pen"] }).release).toEqual({ fate: "taken", taken_to: "pen" });
  });
});

it("says before it is kept that a note is too long", () => {
  expect(read(`wal 437; ${"n".repeat(200)}`).problems).toEqual([]);
  expect(read(`wal 437; ${"n".repeat(201)}`).problems[0]).toMatch(/at most 200 characters; this one has 201/);
});

it("knows a species by its further words", () => {
  const species = [{ code: "tch", name: "Tarn char", words: ["char", "red belly"] }];
  for (const called of ["char 231", "red belly 231", "tch 231", "tarn char 231"])
    expect(readCall(called, { ...settings, species }, null)).toMatchObject({ species: "tch", problems: [] });
});

it("no word of the line itself is free for a species", () => {
  const own = [
    "f",
    "female",
    "m",
    "male",
    "u",
    "none",
    ...Object.keys(LEAVING_WORDS),
    "tl",
    "tln",
    "fl",
    "sl",
    "ljfl",
    "efl",
    "dw",
  ];
  const units = [settings.units.length, settings.units.mass].flatMap(({ spellings }) => Object.keys(spellings));
  for (const word of [...own, ...units]) expect(callWords).toContain(word);
  for (const word of own) expect(readCall(word, { ...settings, species: [] }, null).problems).toEqual([]);
});

describe("last was", () => {
  const last = capture("a", { sex: "f", note: "scar" }); // 463 mm, 950 g

  it("changes what is said of the last fish and nothing else", () => {
    const amend = (line: string) => amendedCall(line, last, settings)!;
    expect(fish(amend("last was 496"))).toEqual(["wal", 496, 950, "f"]);
    expect(fish(amend("Last was 1.1 kg"))).toEqual(["wal", 463, 1100, "f"]);
    expect(fish(amend("last was yep m"))).toEqual(["yep", 463, 950, "m"]);
    expect(amend("last was 496")).toMatchObject({ note: "scar", problems: [], empty: false });
    expect(amend("last was 496; net mark").note).toBe("net mark");
  });

  it("gives the last fish the tag that is called", () => {
    const given = amendedCall("last was #W1450 none", last, settings)!;
    expect(given.marks).toEqual([{ kind: "tbar", number: "W1450" }]);
    expect(given).toMatchObject({ scanned: "none", problems: [] });
    expect(fish(given)).toEqual(["wal", 463, 950, "f"]);
  });

  it("says what it does not change, and is only itself", () => {
    expect(amendedCall("last was dead", last, settings)!.problems[0]).toContain("How it left");
    expect(amendedCall("last was none", last, settings)!.problems[0]).toContain("whether it was scanned");
    expect(amendedCall("last was wide", last, settings)!.problems).toHaveLength(1);
    for (const line of ["last was", "last was ", "437", "the last was 496"])
      expect(amendedCall(line, last, settings)).toBeNull();
  });
});

describe("short ways to call", () => {
  const stock = [
    { kind: "pit" as const, number: "999000000012345" },
    { kind: "pit" as const, number: "999000000099345" },
  ];

  it("takes the last digits of a tag where only one in stock ends so", () => {
    expect(read("wal 437 none t12345", null, { stock }).marks).toEqual([stock[0]]);
    expect(read("wal 437 t345", null, { stock }).problems[0]).toContain("2 tags in stock end in 345");
    expect(read("wal 437 t777", null, { stock }).problems[0]).toContain("No tag in stock ends in 777");
    expect(read("wal 437 t345").problems[0]).toContain("is no species");
  });

  it("calls the last fish once more, without its note", () => {
    const last = capture("a", { note: "scar", sex: "f" });
    expect(repeatedLine("again", last, settings)).toBe("wal 463 tl 950 f");
    expect(fish(read(repeatedLine(" Again ", last, settings)!))).toEqual(["wal", 463, 950, "f"]);
    for (const line of ["again 437", "against", ""]) expect(repeatedLine(line, last, settings)).toBeNull();
  });
});
