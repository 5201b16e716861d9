import { act } from "react";
import { beforeEach, expect, it, vi } from "vitest";
import { emptyDeck } from "@/testing/deck";
import { change, field, press, show } from "@/testing/screen";
import type { DeckStore } from "../document/deck-store";
import { SigningSheet } from "./SigningSheet";

vi.mock("@/session", () => ({ useHere: () => ({ person: { id: "me", name: "Ada" } }) }));

const list = (code: string, note = "") => ({
  code,
  version: 2,
  title: code,
  lines: ["Read me."],
  note,
  signature: null,
});
let added: { kind: string; row: Record<string, unknown> }[];
let closed: number;

/** A write ends when this does. */
let disk: Promise<void>;

function sheet(checklists: ReturnType<typeof list>[]) {
  const deck = { ...emptyDeck(), checklists };
  const view = {
    document: deck,
    inDoubt: new Set<string>(),
    stale: null,
    caller: null,
    correcting: null,
    unsent: new Set<string>(),
    refused: [],
  };
  const store = {
    view,
    add: async (operation: (typeof added)[0]) => {
      added.push(operation);
      await disk;
    },
  };
  show(
    <SigningSheet
      store={store as unknown as DeckStore}
      view={view}
      onClose={() => {
        closed += 1;
      }}
    />,
  );
}
const button = (words: string) =>
  [...document.querySelectorAll("button")].find((each) => each.textContent?.trim() === words)!;
const settle = () => act(async () => void (await new Promise((resolve) => setTimeout(resolve, 20))));

beforeEach(() => {
  disk = Promise.resolve();
  added = [];
  closed = 0;
});

it("signs one list by name and stays for the next", async () => {
  sheet([list("boat"), list("night")]);
  expect(document.body.textContent).toContain("Version 2. The first of 2 that are left.");
  change(field("Name"), "Bo ");
  press("Sign");
  await settle();
  expect(added.map(({ row }) => row)).toMatchObject([{ checklist: "boat", name: "Bo", note: "", signed: true }]);
  expect(closed).toBe(0);
});

it("asks for what the list wants written down, and closes after the last", async () => {
  sheet([list("dam", "Operator's name")]);
  expect(button("Sign").disabled).toBe(true);
  change(field("Operator's name"), "Vik, 18:20");
  press("Sign");
  await settle();
  expect(added[0]!.row).toMatchObject({ checklist: "dam", name: "Ada", note: "Vik, 18:20", signed: true });
  expect(closed).toBe(1);
});

it("keeps what is typed for the next list while the last one is being written", async () => {
  let written = () => {};
  disk = new Promise((resolve) => {
    written = resolve;
  });
  sheet([list("dam", "Operator's name"), list("boat")]);
  change(field("Operator's name"), "Vik, 18:20");
  press("Sign");
  expect((field("Operator's name") as HTMLInputElement).value).toBe("");
  change(field("Operator's name"), "Lock 2");
  written();
  await settle();
  expect((field("Operator's name") as HTMLInputElement).value).toBe("Lock 2");
});

it("goes on without signing only with a reason, for all that are left", async () => {
  sheet([list("boat"), list("dam", "Operator's name")]);
  press("Go on without signing...");
  const go = "Go on with these 2 lists unsigned";
  expect(button(go).disabled).toBe(true);
  change(field("Why the outing goes on without (kept in the record)"), "read ashore");
  press(go);
  await settle();
  expect(added.map(({ row }) => [row.checklist, row.signed, row.note])).toEqual([
    ["boat", false, "read ashore"],
    ["dam", false, "read ashore"],
  ]);
  expect(closed).toBe(1);
});
