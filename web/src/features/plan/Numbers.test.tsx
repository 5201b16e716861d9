import { describe, expect, it, vi } from "vitest";
import { change, field, leave, show } from "@/testing/screen";
import { Numbers } from "./Numbers";

const specs = [
  { name: "gap_m", label: "Gap", unit: "m" },
  { name: "n", label: "How many", optional: true },
  {
    name: "layout",
    label: "How",
    options: [
      { value: "a", label: "one" },
      { value: "b", label: "two" },
    ],
  },
];

function shown(values: object, error: { field: string; message: string } | null = null) {
  const onChange = vi.fn();
  show(<Numbers specs={specs} values={values} onChange={onChange} error={error} />);
  return onChange;
}

describe("figures of a plan", () => {
  it("count when the field is left, with a decimal comma too", () => {
    const onChange = shown({ gap_m: 5, n: null, layout: "a" });
    const gap = field("Gap (m)");
    change(gap, "7,5");
    expect(onChange).not.toHaveBeenCalled();
    leave(gap);
    expect(onChange).toHaveBeenCalledWith({ gap_m: 7.5 });
  });
  it("change nothing where the figure is the same or none", () => {
    const onChange = shown({ gap_m: 5, n: 3, layout: "a" });
    const gap = field("Gap (m)");
    leave(gap);
    change(gap, "wide");
    leave(gap);
    change(gap, "");
    leave(gap);
    expect(onChange).not.toHaveBeenCalled();
  });
  it.each([
    ["1,000", "two ways"],
    ["wide", "Expected a number"],
    ["1 000", "Expected a number"],
  ])("say at the field why '%s' cannot be read, and change nothing", (text, words) => {
    const onChange = shown({ gap_m: 5, n: 3, layout: "a" });
    const gap = field("Gap (m)");
    change(gap, text);
    leave(gap);
    expect(document.querySelector("[role=alert]")?.textContent).toContain(words);
    expect(onChange).not.toHaveBeenCalled();
    change(gap, "1,250.5");
    leave(gap);
    expect(document.querySelector("[role=alert]")).toBe(null);
    expect(onChange).toHaveBeenCalledWith({ gap_m: 1250.5 });
  });
  it("may be emptied where none is meant", () => {
    const onChange = shown({ gap_m: 5, n: 3, layout: "a" });
    const many = field("How many");
    change(many, " ");
    leave(many);
    expect(onChange).toHaveBeenCalledWith({ n: null });
  });
  it("are chosen at once", () => {
    const onChange = shown({ gap_m: 5, n: 3, layout: "a" });
    change(field("How"), "b");
    expect(onChange).toHaveBeenCalledWith({ layout: "b" });
  });
  it("carry the refusal at the field it belongs to, also inside a part", () => {
    shown({ gap_m: 5, n: 3, layout: "a" }, { field: "parts.layout.gap_m", message: "Expected a gap from 0." });
    expect(document.querySelector("[role=alert]")?.textContent).toBe("Expected a gap from 0.");
    expect(field("Gap (m)").getAttribute("aria-invalid")).toBe("true");
  });
});
