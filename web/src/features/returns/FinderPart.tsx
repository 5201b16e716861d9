import { formatDay } from "@/ui/words/format";
import type { WholeReport } from "./queries";

/** Who sent it, as far as they wanted to say. */
export function FinderPart({ report: { finder, language } }: { report: WholeReport }) {
  return (
    <section aria-label="Finder" className="mt-3">
      <h3 className="font-semibold">Finder</h3>
      {!finder && <p className="text-muted">Left no name and no contact.</p>}
      {finder?.erased_at && <p className="text-muted">Contact erased on {formatDay(finder.erased_at)}.</p>}
      {finder && !finder.erased_at && (
        <p className="wrap-anywhere">
          {[finder.name, finder.email, finder.telephone, finder.post].filter(Boolean).join(" · ")}
          {finder.guardian && ` (consent of ${finder.guardian})`}
          <span className="block text-sm text-muted">
            Consent on {formatDay(finder.consent_at)}; writes in{" "}
            {new Intl.DisplayNames(["en"], { type: "language" }).of(language)}.
          </span>
        </p>
      )}
    </section>
  );
}
