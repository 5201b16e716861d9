import { describe, expect, it } from "vitest";
import shared from "../../../../../../tests/shared/angling.json";
import power from "../../../../../../tests/shared/power.json";
import { feedDue, fights, fightsOn } from "../angling";
import { powerAchieved } from "../power";

describe("rods as core has them", () => {
  it.each(shared.fights)("$name", ({ hooked, ended, fights: wanted }) => {
    expect(fights(hooked, ended)).toEqual(wanted);
  });

  it.each(shared.feeding)("$name", ({ began, fed, now, due, feeding }) => {
    expect(feedDue(began, fed, now, feeding)).toBe(due);
  });

  it("forgets a fight of which nothing was heard for two hours", () => {
    expect(fightsOn([0, 60], [100], 200)).toEqual([140]);
    expect(fightsOn([0], [], 7300)).toEqual([]);
  });
});

it.each(power)("power of $volts V and $amps A as core has it", ({ volts, amps, goal_w, ambient_us_cm, ...wanted }) => {
  expect(powerAchieved(volts, amps, goal_w, ambient_us_cm)).toEqual(wanted);
});
