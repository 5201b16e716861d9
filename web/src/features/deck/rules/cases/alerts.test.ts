import { expect, it } from "vitest";
import shared from "../../../../../../tests/shared/alerts.json";
import { alertsFor, limitsFor, pressureSeasons } from "../alerts";

it.each(shared.alerts)("alerts: %o", ({ species, length_mm, alerts }) =>
  expect(alertsFor(shared.rows, species, length_mm)).toEqual(alerts),
);

it.each(shared.limits)("seasons and boat limits: %o", ({ species, day, retained, limits }) =>
  expect(limitsFor(shared.limits_rows, species, day, retained)).toEqual(limits),
);

it.each(shared.sexing)("sex by pressure in season: %o", ({ species, day, seasons }) =>
  expect(pressureSeasons(shared.sexing_rows, species, day)).toEqual(seasons),
);
