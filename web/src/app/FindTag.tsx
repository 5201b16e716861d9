import { useNavigate } from "@tanstack/react-router";
import { type FormEvent, useId } from "react";

/** A tag by its number, from every page. */
export function FindTag() {
  const id = useId();
  const navigate = useNavigate();
  const find = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const number = String(new FormData(event.currentTarget).get("number")).trim();
    if (number) void navigate({ to: "/tags", search: { number } });
    event.currentTarget.reset();
  };
  return (
    <form onSubmit={find} className="max-xl:hidden">
      <label htmlFor={id} className="sr-only">
        Find a tag by its number
      </label>
      <input
        id={id}
        name="number"
        type="search"
        placeholder="Find a tag"
        maxLength={40}
        className="min-h-[44px] w-26 rounded-sm border border-line bg-raised px-2 text-sm"
      />
    </form>
  );
}
