const KELVIN = 273.15;

/**
 * Dissolved oxygen of fresh water in balance with the air at sea level, mg/L: core's `waters/oxygen`
 * (Benson and Krause 1984), held to it by tests/shared/oxygen.json.
 */
export function saturationMgL(temperatureC: number): number {
  const k = temperatureC + KELVIN;
  return Math.exp(-139.34411 + 1.575701e5 / k - 6.642308e7 / k ** 2 + 1.2438e10 / k ** 3 - 8.621949e11 / k ** 4);
}

/** What a reading of oxygen is in per cent of saturation, in words; nothing while either figure is not there. */
export function saturationHint(temperatureC: number | null, oxygenMgL: number | null): string | undefined {
  if (temperatureC === null || oxygenMgL === null || temperatureC < 0) return undefined;
  const percent = (100 * oxygenMgL) / saturationMgL(temperatureC);
  const told = `${percent.toFixed(0)} % of saturation at sea level`;
  // algae lift it on bright days, hardly ever so far (common practice, no source)
  return percent > 150 ? `${told}: is it mg/L?` : told;
}
