/** Core's `power_achieved` again, for work with no signal; held to it by tests/shared/power.json. */
export function powerAchieved(volts: number, amps: number, goal_w: number, ambient_us_cm: number | null) {
  const watts = volts * amps;
  return {
    watts,
    percent: (100 * watts) / goal_w,
    r100_ohm: ambient_us_cm === null ? null : ((volts / amps) * ambient_us_cm) / 100,
  };
}
