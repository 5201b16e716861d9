import { useState } from "react";
import { answer, api, type Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Certificate } from "./Certificate";
import { useWords } from "./words";

interface Props {
  told: Schemas["Answer"];
  onTold: (told: Schemas["Answer"]) => void;
  onAnother: () => void;
}

/** What a finder is answered: the fish's story, or that a person will look. */
export function Answer({ told, onTold, onAnother }: Props) {
  const { say } = useWords();
  const { story, state } = told;
  return (
    <section className="pb-10" aria-label={say("thanks")}>
      <h1 className="pt-6 text-3xl font-semibold">{say("thanks")}</h1>
      {state === "verified" && <p className="pt-2">{say("verified")}</p>}
      {state === "rejected" && <p className="pt-2">{say("rejected")}</p>}
      {state === "asked" && (
        <div className="mt-3 border-l-4 border-signal bg-raised px-3 py-2">
          <p>{say("asked")}</p>
          <p className="font-semibold">{told.question}</p>
        </div>
      )}
      {!story && state === "waiting" && (
        <p className="pt-2">
          {say("waits")} {told.contact ? say("waits-contact") : say("waits-link")}
        </p>
      )}
      {story && <Story story={story} unverified={state !== "verified"} />}
      {story && <Certificate report={told.key} number={told.number} />}
      <Erase told={told} onTold={onTold} />
      <Button large className="mt-6 w-full" onClick={onAnother}>
        {say("another")}
      </Button>
    </section>
  );
}

function Story({ story, unverified }: { story: Schemas["Story"]; unverified: boolean }) {
  const { say } = useWords();
  return (
    <div className="mt-4 border-t-3 border-ink pt-3">
      <h2 className="text-xl font-semibold">{say("story-title")}</h2>
      <ul className="pt-1 text-lg">
        {story.lines.map((line) => (
          <li key={line} className="py-1">
            {line}
          </li>
        ))}
      </ul>
      {unverified && <p className="pt-1 text-sm text-muted">{say("story-unverified")}</p>}
    </div>
  );
}

function Erase({ told, onTold }: Pick<Props, "told" | "onTold">) {
  const { say, language } = useWords();
  const [erased, setErased] = useState(false);
  if (erased) return <p className="pt-4">{say("erased")}</p>;
  if (!told.contact) return null;
  const erase = async () => {
    const params = { params: { path: { link: told.key }, query: { language } } };
    onTold(await answer(api.POST("/api/v1/public/reports/{link}/contact/erased", params)));
    setErased(true);
  };
  return (
    <Button className="mt-4" onClick={() => void erase()}>
      {say("erase")}
    </Button>
  );
}
