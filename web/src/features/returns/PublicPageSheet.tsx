import { useState } from "react";
import { useForm } from "react-hook-form";
import type { Schemas } from "@/api/client";
import { fieldErrors } from "@/api/field-errors";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Choice, Field } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { Sheet } from "@/ui/Sheet";
import { useChangePublicPage, usePublicPage } from "./queries";

type Settings = Schemas["PageSettings"];

/** The finders' page: its address, what stands on it, and the notice that leads to it. */
export function PublicPageSheet({ onClose }: { onClose: () => void }) {
  const { membership, may } = useHere();
  const { data, error } = usePublicPage(membership.programme);
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title="Public page for finders"
      description="Whoever finds a tag reports it there without an account, and is answered at once."
    >
      {error && <ErrorMessage failure={error} />}
      {data?.open && <Links programme={membership.programme} page={data} />}
      {data && !data.open && (
        <p className="pb-3">The page is closed: nobody can report there. {!may("lead") && "A lead can open it."}</p>
      )}
      {data && may("lead") && <SettingsForm programme={membership.programme} page={data} onClose={onClose} />}
    </Sheet>
  );
}

function Links({ programme, page }: { programme: string; page: Settings }) {
  const [language, setLanguage] = useState("en");
  const [paper, setPaper] = useState("a4");
  const address = `${location.origin}/r/${page.address}`;
  return (
    <div className="grid gap-2 pb-4">
      <p>
        Open at{" "}
        <a href={address} target="_blank" rel="noreferrer" className="font-semibold underline underline-offset-4">
          {address}
        </a>
      </p>
      <div className="flex flex-wrap items-end gap-2">
        <Choice label="Language" value={language} onChange={({ target }) => setLanguage(target.value)}>
          {page.languages.map((code) => (
            <option key={code} value={code}>
              {new Intl.DisplayNames(["en"], { type: "language" }).of(code)}
            </option>
          ))}
        </Choice>
        <Choice label="Paper" value={paper} onChange={({ target }) => setPaper(target.value)}>
          <option value="a4">A4</option>
          <option value="letter">Letter</option>
        </Choice>
        <a
          className="inline-flex min-h-[44px] items-center rounded-sm border border-line bg-raised px-3"
          href={`/api/v1/programmes/${programme}/public-page/notice.pdf?language=${language}&paper=${paper}`}
          target="_blank"
          rel="noreferrer"
        >
          Print notice (PDF)
        </a>
      </div>
    </div>
  );
}

function SettingsForm({ programme, page, onClose }: { programme: string; page: Settings; onClose: () => void }) {
  const change = useChangePublicPage(programme);
  const errors = fieldErrors(change.error);
  const { register, handleSubmit } = useForm<Settings>({ defaultValues: page });
  const save = handleSubmit((given) =>
    change.mutate(given, {
      onSuccess: (now) => {
        notify(now.open ? "The public page is open." : "The public page is closed.");
        if (!now.open) onClose();
      },
    }),
  );
  return (
    <form onSubmit={save} className="grid gap-3 border-t border-line pt-3">
      <label className="flex min-h-[44px] items-center gap-2">
        <input type="checkbox" className="size-5 shrink-0" {...register("open")} />
        Finders can report on this page
      </label>
      <Field
        label={`Short address: ${location.host}/r/`}
        maxLength={24}
        error={errors.address}
        {...register("address")}
      />
      <div className="grid grid-cols-2 gap-2">
        <Field label="Telephone" maxLength={40} error={errors.telephone} {...register("telephone")} />
        <Field label="E-mail" type="email" error={errors.email} {...register("email")} />
      </div>
      <Field label="Greeting above the form" maxLength={400} error={errors.greeting} {...register("greeting")} />
      <label className="flex min-h-[44px] items-center gap-2">
        <input type="checkbox" className="size-5 shrink-0" {...register("answers_at_once")} />
        Tell the fish's story at once, before anybody has looked at the report
      </label>
      <Field
        label="Days for which a finder's contact is kept after the decision"
        type="number"
        min={1}
        max={3650}
        error={errors.contact_days}
        {...register("contact_days", { valueAsNumber: true })}
      />
      {change.error && <ErrorMessage failure={change.error} />}
      <Button type="submit" look="ink" large disabled={change.isPending}>
        Save public page
      </Button>
    </form>
  );
}
