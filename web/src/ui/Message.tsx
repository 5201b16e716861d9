import { ApiError } from "@/api/client";

/** What went wrong and what to do, in the words of whoever refused. */
export function ErrorMessage({ failure }: { failure: Error }) {
  const text =
    failure instanceof ApiError
      ? failure.message
      : failure instanceof TypeError
        ? "The server gives no answer. What you record on the Deck is kept on this device and sent later."
        : failure.message;
  return (
    <p role="alert" className="max-w-prose border-l-4 border-signal bg-raised px-3 py-2">
      {text}
    </p>
  );
}

/** A place with nothing in it yet, saying what to do next. */
export function Empty({ children }: { children: React.ReactNode }) {
  return <p className="max-w-prose py-6 text-muted">{children}</p>;
}

/** A refusal below a form, unless it stands at one of the form's own fields. */
export function Refusal({ failure, fields }: { failure: Error | null; fields: readonly string[] }) {
  if (!failure || (failure instanceof ApiError && failure.field && fields.includes(failure.field))) return null;
  return (
    <div className="col-span-full">
      <ErrorMessage failure={failure} />
    </div>
  );
}
