import tables from "./rule-tables.gen.json";
/** Core's `deck.deep_water` again, for work with no signal; held to it by tests/shared/descent.json. */
export interface DescentAsked {
  /** Lead where nothing else is said. */
  weight?: Weight;
  mass_g: number;
  depth_m: number;
  water: "sea" | "fresh";
  bottom_m?: number;
  altitude_m?: number;
  strong_current?: boolean;
  legal_minimum_g?: number;
  lets_go_at_m?: readonly number[];
  pull_m?: number;
  swim_bladder?: boolean;
  let_go_share?: number;
}

export interface DescentPlan {
  release_depth_m: number;
  excess: number;
  sinker_g: number;
  lets_go_m: number | null;
  lets_go_excess: number | null;
  pulls: number | null;
  notes: string[];
}

export const LEGAL_MINIMUM_G = tables.descent.legal_minimum_g;
const STANDARD_PA = tables.descent.standard_pa;
const GRAVITY = tables.descent.gravity;
const DENSITY = tables.descent.density;
const GAS_SHARE = tables.descent.gas_share;
/** What weights are made of, kg/m3. */
const WEIGHT_DENSITY = tables.descent.weight_density;
export type Weight = keyof typeof WEIGHT_DENSITY;
export const WEIGHTS = Object.keys(WEIGHT_DENSITY) as Weight[];

export function pressurePa(depth_m: number, water: "sea" | "fresh", altitude_m = 0): number {
  return STANDARD_PA * (1 - 2.25577e-5 * altitude_m) ** 5.25588 + DENSITY[water] * GRAVITY * depth_m;
}

/** How deep, with what weight, and how many pulls of line; the limits of what can be asked are core's. */
export function descentPlan(asked: DescentAsked): DescentPlan {
  const { mass_g, depth_m, water, altitude_m = 0, strong_current = false, lets_go_at_m = [], pull_m } = asked;
  const {
    weight = "lead",
    bottom_m = depth_m,
    legal_minimum_g = LEGAL_MINIMUM_G,
    swim_bladder = true,
    let_go_share = 0.75,
  } = asked;
  const share = swim_bladder ? GAS_SHARE[water] : 0;
  const gas = (mass_g / 1000 / DENSITY[water]) * share;
  const at = (depth: number) => pressurePa(depth, water, altitude_m);
  const lift = DENSITY[water] * GRAVITY * gas * (at(depth_m) / at(0) - 1);
  const needed = (lift / GRAVITY / (1 - DENSITY[water] / WEIGHT_DENSITY[weight])) * (strong_current ? 2 : 1.5) * 1000;
  const release = Math.min(let_go_share * depth_m, 0.95 * bottom_m);
  const excess = (depth: number) => (swim_bladder ? at(depth_m) / at(depth) - 1 : 0);
  const fits = lets_go_at_m.filter((each) => each < bottom_m && each <= depth_m);
  const letsGo = fits.length ? Math.max(...fits) : null;
  const percent = (part: number) => `${Math.round(100 * part)} %`;
  const notes: string[] = [];
  if (excess(release) > 0.5)
    notes.push(
      `At ${Math.round(release)} m it still has ${percent(excess(release))} more gas than it is neutral with: the water here is too shallow for this fish. Go back to deeper water if you can.`,
    );
  if (lets_go_at_m.length && letsGo === null)
    notes.push("No device lets go above this bottom and this depth; use a cage or a hook that is tugged off.");
  else if (letsGo !== null && excess(letsGo) > 0.5)
    notes.push(`The device that lets go at ${Math.round(letsGo)} m leaves it ${percent(excess(letsGo))} gas too much.`);
  if (!swim_bladder)
    notes.push("It has no swim bladder and no gas to be rid of: it swims down by itself when it is let go gently.");
  if (strong_current)
    notes.push("Strong current drifts a light weight off: crews take 1.4 to 1.8 kg (common practice, no source).");
  return {
    release_depth_m: release,
    excess: excess(release),
    sinker_g: Math.max(needed, legal_minimum_g),
    lets_go_m: letsGo,
    lets_go_excess: letsGo === null ? null : excess(letsGo),
    pulls: pull_m === undefined ? null : Math.ceil(release / pull_m - 1e-9),
    notes,
  };
}

export interface DeviceAsked {
  mass_g: number;
  n_fish: number;
  rough: boolean;
  firm_bottom: boolean;
  depth_m: number;
  predators: boolean;
  lets_go_at_m: readonly number[];
}

export interface Device {
  code: string;
  name: string;
  fits: boolean;
  reasons: string[];
}

/** Ways to send fish down, those that fit first, each with reasons (common practice, no source). */
export function chooseDevice(asked: DeviceAsked): Device[] {
  const { mass_g, n_fish, rough, firm_bottom, depth_m, predators, lets_go_at_m } = asked;
  const large = mass_g > 3000;
  const several = n_fish > 2;
  const reached = lets_go_at_m.filter((each) => each <= depth_m);
  const deepest = reached.length ? Math.max(...reached) : null;
  const one: [boolean, string] = [!several, "one fish at a time"];
  const judged: [string, string, [boolean, string][]][] = [
    [
      "cage",
      "Weighted inverted crate or cage",
      [
        [!large, "for fish up to about 3 kg"],
        [!rough, "needs a calm sea"],
        [true, several ? "takes several at once" : "guards against predators"],
      ],
    ],
    [
      "hook",
      "Inverted barbless hook through the jaw membrane",
      [
        [!predators, predators ? "leaves the fish unguarded" : "where no predator waits"],
        [true, "simple and cheap; holds more than one fish if the trace is long enough"],
      ],
    ],
    [
      "bottom-clamp",
      "Lip clamp that opens on the bottom",
      [[firm_bottom, "needs firm bottom"], [!rough, "rough sea springs it"], one],
    ],
    [
      "tug-clamp",
      "Lip clamp opened by a tug",
      [one, [depth_m <= 60, "a tug is felt to about 60 m"], [true, "any bottom"]],
    ],
    [
      "pressure-clamp",
      "Pressure-triggered clamp",
      [
        [
          deepest !== null,
          deepest !== null
            ? `lets go at ${deepest} m`
            : lets_go_at_m.length
              ? `none lets go above ${Math.min(...lets_go_at_m)} m`
              : "no depth is entered at which one lets go",
        ],
        one,
        [true, "large fish, any bottom"],
      ],
    ],
  ];
  return judged
    .map(([code, name, reasons]) => {
      const fits = reasons.every(([good]) => good);
      return { code, name, fits, reasons: reasons.filter(([good]) => good === fits).map(([, why]) => why) };
    })
    .sort((a, b) => Number(b.fits) - Number(a.fits));
}
