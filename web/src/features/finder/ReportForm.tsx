import { type FormEvent, useEffect, useState } from "react";
import { answer, api, type Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { base64Of } from "@/ui/pictures/picture";
import { Tick } from "@/ui/Tick";
import { ContactPart } from "./ContactPart";
import { type Draft, emptyDraft, reportOf, saveDraft, savedDraft } from "./draft";
import { MorePart } from "./MorePart";
import { OneOf } from "./OneOf";
import { PhotoPart } from "./PhotoPart";
import { refusalOf } from "./refusal";
import { WherePart } from "./WherePart";
import { useWords } from "./words";

interface Props {
  address: string;
  page: Schemas["PublicPage"];
  onAnswer: (told: Schemas["Answer"]) => void;
}

/** The report of a tag, in the order of a wet hand: number, fish, when, where, what became of it. */
export function ReportForm({ address, page, onAnswer }: Props) {
  const words = useWords();
  const { say, language } = words;
  const [draft, setDraft] = useState<Draft>(() => savedDraft(address) ?? emptyDraft(page.length_unit));
  const [photo, setPhoto] = useState<Blob | null>(null);
  const [sending, setSending] = useState(false);
  const [errors, setErrors] = useState<Record<string, string>>({});
  const change = (part: Partial<Draft>) => {
    setDraft((old) => ({ ...old, ...part }));
    setErrors({});
  };
  useEffect(() => saveDraft(address, draft), [address, draft]);

  const send = async (event: FormEvent) => {
    event.preventDefault();
    setSending(true);
    setErrors({});
    try {
      const body = reportOf(draft, photo && (await base64Of(photo)), language, new Date());
      const told = await answer(api.POST("/api/v1/public/pages/{address}", { params: { path: { address } }, body }));
      saveDraft(address, null);
      onAnswer(told);
    } catch (failure) {
      const { part, text } = refusalOf(failure as Error, words);
      setErrors(part ? { [part]: text, below: say("errors-found") } : { below: text });
    } finally {
      setSending(false);
    }
  };
  return (
    <form onSubmit={send} noValidate className="pb-10">
      <div className="mt-4">
        <Field
          label={say("number")}
          hint={say("number-hint")}
          error={errors.number}
          value={draft.number}
          maxLength={40}
          autoCapitalize="characters"
          autoComplete="off"
          spellCheck={false}
          style={{ fontSize: "1.4rem" }}
          onChange={({ target }) => change({ number: target.value })}
        />
      </div>
      <PhotoPart
        photo={photo}
        onPhoto={(taken) => {
          setPhoto(taken);
          setErrors({});
        }}
        onRefuse={() => setErrors({ photo: say("error-picture_unreadable") })}
      />
      <FieldError text={errors.photo} />
      <OneOf
        label={say("species")}
        options={[
          ...page.species.map(({ code, name }) => [code, name] as const),
          ["unknown", say("species-unknown")] as const,
        ]}
        chosen={draft.species}
        onChoose={(species) => change({ species })}
      />
      <WhenPart draft={draft} error={errors.found_on} onChange={change} />
      <WherePart address={address} draft={draft} onChange={change} />
      <FieldError text={errors.lat ?? errors.lon} />
      <OneOf
        label={say("fish")}
        options={(["released", "kept", "dead"] as const).map((each) => [each, say(`fish-${each}`)])}
        chosen={draft.fish_fate ?? ""}
        onChoose={(fish_fate) => change({ fish_fate: fish_fate as Draft["fish_fate"] })}
      />
      <OneOf
        label={say("tag")}
        options={(["left", "removed"] as const).map((each) => [each, say(`tag-${each}`)])}
        chosen={draft.tag_fate ?? ""}
        onChoose={(tag_fate) => change({ tag_fate: tag_fate as Draft["tag_fate"] })}
      />
      <MorePart draft={draft} errors={errors} onChange={change} />
      <ContactPart
        contact={draft.contact}
        days={page.contact_days}
        error={errors.contact}
        onChange={(part) => change({ contact: { ...draft.contact, ...part } })}
      />
      <div className="mt-2 border-t border-line pt-2">
        <Field
          label={say("remarks")}
          maxLength={1000}
          value={draft.remarks}
          onChange={({ target }) => change({ remarks: target.value })}
        />
      </div>
      <FieldError text={errors.below} />
      <Button type="submit" look="ink" large className="mt-4 w-full" disabled={sending}>
        {sending ? say("sending") : say("send")}
      </Button>
    </form>
  );
}

function WhenPart({
  draft,
  error,
  onChange,
}: {
  draft: Draft;
  error?: string;
  onChange: (part: Partial<Draft>) => void;
}) {
  const { say } = useWords();
  return (
    <OneOf
      label={say("when")}
      options={(["today", "yesterday", "other", "unknown"] as const).map((each) => [each, say(`when-${each}`)])}
      chosen={draft.when}
      onChoose={(when) => onChange({ when: when as Draft["when"] })}
    >
      {draft.when === "other" && (
        <div className="pt-2">
          <Field
            label={say("day")}
            type="date"
            value={draft.day}
            onChange={({ target }) => onChange({ day: target.value })}
          />
          <Tick label={say("day-about")} checked={draft.about} onChange={(about) => onChange({ about })} />
        </div>
      )}
      <FieldError text={error} />
    </OneOf>
  );
}

function FieldError({ text }: { text: string | undefined }) {
  return (
    <p role="alert" className="pt-1 text-signal empty:hidden">
      {text}
    </p>
  );
}
