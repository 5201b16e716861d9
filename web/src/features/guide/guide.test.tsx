import { readFileSync } from "node:fs";
import { expect, it } from "vitest";

const text = (who: string) => readFileSync(`../docs/guide/${who}.md`, "utf8");

it.each(["recorder", "lead", "biologist", "volunteer"])(
  "the guide for a %s is an hour of parts and names no person or brand",
  (who) => {
    const minutes = [...text(who).matchAll(/^## .*\((\d+) minutes/gm)].map(([, n]) => Number(n));
    expect(minutes.length).toBeGreaterThan(3);
    expect(minutes.reduce((sum, n) => sum + n, 0)).toBeLessThanOrEqual(60);
  },
);
