import { Field } from "@/ui/Field";
import { Tick } from "@/ui/Tick";
import type { Draft } from "./draft";
import { useWords } from "./words";

interface Props {
  contact: Draft["contact"];
  days: number;
  error: string | undefined;
  onChange: (part: Partial<Draft["contact"]>) => void;
}

/** How to reach the finder, only where they want an answer; kept with their consent, a guardian's for a child. */
export function ContactPart({ contact, days, error, onChange }: Props) {
  const { say } = useWords();
  const filled = [contact.name, contact.email, contact.telephone, contact.post].some((each) => each?.trim());
  return (
    <details className="mt-2 border-t border-line pt-2" open={filled || undefined}>
      <summary className="min-h-[44px] cursor-pointer py-2 text-base font-semibold">{say("contact")}</summary>
      <p className="pb-2 text-sm text-muted">{say("contact-hint")}</p>
      <div className="grid gap-2">
        <Field
          label={say("contact-name")}
          autoComplete="name"
          maxLength={80}
          value={contact.name}
          onChange={({ target }) => onChange({ name: target.value })}
        />
        <Field
          label={say("contact-email")}
          type="email"
          autoComplete="email"
          maxLength={254}
          value={contact.email}
          onChange={({ target }) => onChange({ email: target.value })}
        />
        <Field
          label={say("contact-telephone")}
          type="tel"
          autoComplete="tel"
          maxLength={40}
          value={contact.telephone}
          onChange={({ target }) => onChange({ telephone: target.value })}
        />
        <Field
          label={say("contact-post")}
          autoComplete="street-address"
          maxLength={300}
          value={contact.post}
          onChange={({ target }) => onChange({ post: target.value })}
        />
      </div>
      {filled && (
        <>
          <Tick
            label={say("contact-consent", { days })}
            checked={contact.consent ?? false}
            onChange={(consent) => onChange({ consent })}
          />
          <Tick
            label={say("contact-under-age")}
            checked={contact.under_age ?? false}
            onChange={(under_age) => onChange({ under_age })}
          />
          {contact.under_age && (
            <Field
              label={say("contact-guardian")}
              maxLength={80}
              value={contact.guardian}
              onChange={({ target }) => onChange({ guardian: target.value })}
            />
          )}
        </>
      )}
      <p role="alert" className="text-signal empty:hidden">
        {error}
      </p>
    </details>
  );
}
