import { describe, expect, it } from "vitest";
import shared from "../../../../../../tests/shared/descent.json";
import { chooseDevice, type DescentAsked, descentPlan } from "../descent";

describe("the way down as core has it", () => {
  it.each(shared.descents)("$name", ({ name: _, plan, ...asked }) => {
    const { notes, ...figures } = descentPlan(asked as DescentAsked);
    expect(notes).toHaveLength(plan.notes);
    for (const [name, value] of Object.entries(figures)) {
      const wanted = plan[name as keyof typeof plan];
      if (wanted === null) expect(value).toBeNull();
      else expect(value).toBeCloseTo(wanted, 3);
    }
  });

  it.each(shared.devices)("devices for $mass_g g, $n_fish fish", ({ fits, first, ...asked }) => {
    const found = chooseDevice(asked);
    expect(found.filter((each) => each.fits).map(({ code }) => code)).toEqual(fits);
    expect(found.map(({ code, reasons }) => [code, reasons])).toEqual(first);
  });
});
