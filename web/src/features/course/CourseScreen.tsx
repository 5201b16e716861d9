import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { ErrorMessage } from "@/ui/Message";
import { formatDay, plural } from "@/ui/words/format";
import { Lessons } from "./Lessons";
import { type Practice, PracticeCard } from "./PracticeCard";
import { Questions } from "./Questions";
import { type Course, type CourseResult, courseWords, useCourse, useTakeCourse } from "./queries";

const STEPS = ["Read", "Questions", "Practice fish"] as const;
type Step = (typeof STEPS)[number];

/** The tagging course: read, answer, fill in the card of a practice fish; who passes holds a certificate. */
export function CourseScreen() {
  const { membership, person, may } = useHere();
  const { data: course, error } = useCourse(membership.programme);
  if (!may("write_card")) return <main className="p-6">The tagging course is for whoever may write a card.</main>;
  if (error)
    return (
      <main className="p-4">
        <ErrorMessage failure={error} />
      </main>
    );
  if (!course) return <main className="p-4 text-muted">Opening the course...</main>;
  const own = course.passed.find(({ holder }) => holder === person.name);
  return (
    <main className="mx-auto max-w-xl px-3 pb-10">
      <h1 className="pt-3 text-xl font-semibold">Tagging course</h1>
      <p className="pb-2 text-muted">
        {own ? `Yours: ${courseWords(own)} (${own.result}).` : "About twenty minutes, with a signal."} It does not
        replace the hands-on training that your permit asks for.
      </p>
      <Steps course={course} />
    </main>
  );
}

function Steps({ course }: { course: Course }) {
  const { membership } = useHere();
  const take = useTakeCourse(membership.programme);
  const [step, setStep] = useState<Step>("Read");
  const [answers, setAnswers] = useState<Record<string, string>>({});
  const [card, setCard] = useState<Practice>({
    number_text: "",
    length: "",
    length_basis: "measured",
    condition: null,
  });
  const go = (to: Step) => {
    setStep(to);
    scrollTo(0, 0);
  };
  const open = course.questions.length - Object.keys(answers).length;
  const handIn = () => {
    const length = card.length && `${card.length} ${membership.length_unit}`;
    take.mutate({ answers, practice: { ...card, length } }, { onSuccess: () => scrollTo(0, 0) });
  };
  return (
    <>
      <nav aria-label="Steps of the course" className="flex gap-1.5 pb-3">
        {STEPS.map((each) => (
          <Button
            key={each}
            look={each === step ? "ink" : "plain"}
            aria-pressed={each === step}
            onClick={() => go(each)}
          >
            {each}
          </Button>
        ))}
      </nav>
      {take.data && <Result result={take.data} onGo={go} />}
      {take.error && <ErrorMessage failure={take.error} />}
      {step === "Read" && <Lessons />}
      {step === "Questions" && (
        <Questions
          questions={course.questions}
          answers={answers}
          onAnswer={(question, choice) => setAnswers({ ...answers, [question]: choice })}
          result={take.data}
        />
      )}
      {step === "Practice fish" && (
        <PracticeCard
          fish={course.practice}
          card={card}
          onChange={(part) => setCard({ ...card, ...part })}
          result={take.data}
        />
      )}
      <div className="pt-5">
        {step === "Practice fish" ? (
          <>
            <Button
              look="ink"
              large
              className="min-h-14 w-full text-lg"
              disabled={open > 0 || take.isPending}
              onClick={handIn}
            >
              Hand in answers
            </Button>
            {open > 0 && <p className="pt-1 text-sm text-muted">{plural(open, "question")} without an answer yet.</p>}
          </>
        ) : (
          <Button
            look="ink"
            large
            className="min-h-14 w-full text-lg"
            onClick={() => go(step === "Read" ? "Questions" : "Practice fish")}
          >
            {step === "Read" ? "Go to the questions" : "Go to the practice fish"}
          </Button>
        )}
      </div>
    </>
  );
}

function Result({ result, onGo }: { result: CourseResult; onGo: (step: Step) => void }) {
  const slips = Object.keys(result.practice).length;
  return (
    <section role="status" className="mb-4 border-l-4 border-ink bg-raised px-3 py-2">
      <p className="text-lg font-semibold">{result.passed ? "Passed. Thank you!" : "Not passed yet."}</p>
      <p>
        {result.right} of {result.n} questions right.{" "}
        {result.passed &&
          result.until &&
          `Your certificate is among the programme's permits, valid until ${formatDay(result.until)}.`}
        {result.missed_must && "One that must be right is not. "}
        {slips > 0 && `The practice card has ${plural(slips, "slip")}. `}
        {!result.passed && "What was wrong stands at each question: change it and hand in again."}
      </p>
      {result.passed ? (
        <Link to="/kit" className="inline-flex min-h-[44px] items-center font-semibold underline underline-offset-4">
          To my tagging kit
        </Link>
      ) : (
        <Button className="mt-1" onClick={() => onGo(result.wrong.length ? "Questions" : "Practice fish")}>
          {result.wrong.length ? "Show questions" : "Show practice fish"}
        </Button>
      )}
    </section>
  );
}
