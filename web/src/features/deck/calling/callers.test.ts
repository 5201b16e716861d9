// @vitest-environment jsdom
import { expect, it } from "vitest";
import { rememberSignIn } from "@/offline/database";
import shared from "../../../../../tests/shared/short-code.json";
import { changeOfRecorder, isCodeOf, lastCaller, rememberCaller } from "./callers";

it("knows a code by the digest that the server makes, and no other", () => {
  expect(isCodeOf(shared, shared.code)).toBe(true);
  expect(isCodeOf(shared, "4712")).toBe(false);
  expect(isCodeOf(shared, "")).toBe(false);
});

it("remembers who took over until somebody signs in or out, and for nobody else", async () => {
  const [ada, tove] = [
    { id: "ada", name: "Ada" },
    { id: "tove", name: "Tove" },
  ];
  const session = (person: typeof ada | null) => ({ person: person && { ...person, username: person.name } });
  await rememberSignIn(session(ada));
  await rememberCaller("o", ada, tove);
  expect(await lastCaller("o", ada)).toEqual(tove);
  await rememberSignIn(session(ada)); // asked again who is signed in
  expect(await lastCaller("o", ada)).toEqual(tove);
  expect(await lastCaller("o", { id: "ben", name: "Ben" })).toBe(null);
  await rememberSignIn(session(null));
  await rememberSignIn(session(ada));
  expect(await lastCaller("o", ada)).toBe(null);
});

it("says when another records on the tablet, once", async () => {
  expect(await changeOfRecorder({ id: "ada", name: "Ada" })).toBe(null);
  expect(await changeOfRecorder({ id: "ben", name: "Ben" })).toMatch(
    "Ben records on this tablet from now on; before, it was Ada.",
  );
  expect(await changeOfRecorder({ id: "ben", name: "Ben" })).toBe(null);
});
