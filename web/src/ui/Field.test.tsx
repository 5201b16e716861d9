import { act } from "react";
import { expect, it, vi } from "vitest";
import { change, show } from "@/testing/screen";
import { Field } from "./Field";

it("says in our words what is missing, at the field, and no longer once something is typed", () => {
  const submit = vi.fn((event: React.FormEvent) => event.preventDefault());
  show(
    <form onSubmit={submit}>
      <Field label="Name" required />
      <Field label="Visits" type="number" min={1} max={60} defaultValue={90} />
      <button type="submit">Create</button>
    </form>,
  );
  const [name, visits] = document.querySelectorAll("input");
  const create = () => act(() => document.querySelector("button")!.click());
  const alerts = () => [...document.querySelectorAll("[role=alert]")].map((each) => each.textContent);
  create();
  expect(submit).not.toHaveBeenCalled();
  expect(alerts()).toEqual(["Expected an entry here; got none.", "Expected 60 or less; got 90."]);
  expect(document.activeElement).toBe(name);
  expect(name!.getAttribute("aria-invalid")).toBe("true");
  change(name!, "a");
  expect(alerts()).toEqual(["Expected 60 or less; got 90."]);
  change(visits!, "3");
  create();
  expect(submit).toHaveBeenCalledOnce();
});
