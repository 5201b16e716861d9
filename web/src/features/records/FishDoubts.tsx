import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { useCorrection } from "./queries";

/** Doubts that were raised of a fish, each with its answer; one that nobody was asked can be answered here. */
export function FishDoubts({ capture, mayAnswer }: { capture: Omit<Schemas["Capture"], "run">; mayAnswer: boolean }) {
  const correction = useCorrection(capture.id);
  if (!capture.questions.length) return null;
  const keep = (code: string) =>
    correction.mutate(
      { reason: "looked at again: right as called", questions: [{ code, answer: "kept as called" }] },
      { onSuccess: () => notify("Kept as called; the doubt is answered.") },
    );
  return (
    <section aria-label="Doubts" className="mt-3 border-t border-line pt-2">
      <h3 className="font-semibold">Doubts</h3>
      <ul>
        {capture.questions.map(({ code, answer, called }) => (
          <li key={code} className="flex flex-wrap items-center gap-x-3 border-t border-line py-1 first:border-0">
            <span>
              {words(code)}: {answer === "not asked" ? <strong>not asked</strong> : words(answer ?? "")}
              {called && <span className="text-muted"> (called {called})</span>}
            </span>
            {mayAnswer && answer === "not asked" && (
              <Button large disabled={correction.isPending} onClick={() => keep(code)}>
                It is right as called
              </Button>
            )}
          </li>
        ))}
      </ul>
      {correction.error && <ErrorMessage failure={correction.error} />}
    </section>
  );
}

const words = (code: string) => code.replaceAll("_", " ");
