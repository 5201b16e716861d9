// @vitest-environment jsdom
import { expect, it } from "vitest";
import { asText } from "./as-text";

it("turns files into base64 and leaves all else", async () => {
  const row = { shows: "fish", lat: 44.9, jpeg: new Blob([new Uint8Array([255, 216, 255, 0])]) };
  const entry = { id: "a", row };
  expect(await asText(entry)).toEqual({ id: "a", row: { shows: "fish", lat: 44.9, jpeg: "/9j/AA==" } });
  expect(entry.row.jpeg).toBeInstanceOf(Blob);
});
