import { Button } from "@/ui/Button";
import type { Course, CourseResult } from "./queries";

interface Props {
  questions: Course["questions"];
  answers: Record<string, string>;
  onAnswer: (question: string, choice: string) => void;
  result: CourseResult | undefined;
}

/** The questions one under another; after handing in, why an answer was wrong. */
export function Questions({ questions, answers, onAnswer, result }: Props) {
  const wrong = new Map(result?.wrong.map((each) => [each.code, each]));
  return (
    <ol className="grid gap-5">
      {questions.map(({ code, text, choices, must }, place) => {
        const reason = wrong.get(code);
        const right = choices.find((each) => each.code === reason?.right)?.words;
        return (
          <li key={code}>
            <fieldset>
              <legend className="pb-1 font-semibold">
                {place + 1}. {text}
                {must && <span className="font-normal text-muted"> (must be right)</span>}
              </legend>
              <div className="grid gap-1.5">
                {choices.map((choice) => (
                  <Button
                    key={choice.code}
                    look={answers[code] === choice.code ? "ink" : "plain"}
                    aria-pressed={answers[code] === choice.code}
                    className="justify-start! py-2 text-left whitespace-normal!"
                    onClick={() => onAnswer(code, choice.code)}
                  >
                    {choice.words}
                  </Button>
                ))}
              </div>
            </fieldset>
            {reason && (
              <p className="border-l-4 border-signal bg-raised px-3 py-2">
                <strong>Right: {right}.</strong> {reason.why}
              </p>
            )}
          </li>
        );
      })}
    </ol>
  );
}
