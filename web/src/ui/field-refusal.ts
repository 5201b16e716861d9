import { type InvalidEvent, useState } from "react";

type Entry = HTMLInputElement | HTMLSelectElement;

/** What the browser finds wrong with an entry, said in our words at its field in place of the browser's own balloon. */
export function useFieldRefusal() {
  const [refusal, setRefusal] = useState("");
  return {
    refusal: refusal || undefined,
    onInvalid: (event: InvalidEvent<Entry>) => {
      event.preventDefault();
      const entry = event.currentTarget;
      setRefusal(refusalOf(entry));
      const entries = [...(entry.form?.elements ?? [])] as Entry[];
      if (entries.find(({ validity }) => validity && !validity.valid) === entry) entry.focus();
    },
    onInput: () => setRefusal(""),
  };
}

export function refusalOf(entry: Entry): string {
  const { validity, value } = entry;
  if (validity.valueMissing) return "Expected an entry here; got none.";
  if (validity.typeMismatch) return "Expected a mail address, such as ada@example.org.";
  const { min = "", max = "", minLength = 0, title } = entry as Partial<HTMLInputElement>;
  if (validity.rangeUnderflow) return `Expected ${min} or more; got ${value}.`;
  if (validity.rangeOverflow) return `Expected ${max} or less; got ${value}.`;
  if (validity.tooShort) return `Expected ${minLength} characters or more; got ${value.length}.`;
  if (validity.stepMismatch || validity.badInput) return "Expected a number, and whole where it counts something.";
  return title || "This cannot be read; look at it again.";
}
