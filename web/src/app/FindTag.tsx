import { useNavigate } from "@tanstack/react-router";
import { useId } from "react";
import { useForm } from "react-hook-form";

/** A tag by its number, from every page. */
export function FindTag() {
  const id = useId();
  const navigate = useNavigate();
  const { register, handleSubmit, reset } = useForm({ defaultValues: { number: "" } });
  const find = handleSubmit(({ number }) => {
    if (number.trim()) void navigate({ to: "/tags", search: { number: number.trim() } });
    reset();
  });
  return (
    <form onSubmit={find} className="max-xl:hidden">
      <label htmlFor={id} className="sr-only">
        Find a tag by its number
      </label>
      <input
        id={id}
        type="search"
        placeholder="Find a tag"
        maxLength={40}
        className="min-h-[44px] w-26 rounded-sm border border-line bg-raised px-2 text-sm"
        {...register("number")}
      />
    </form>
  );
}
