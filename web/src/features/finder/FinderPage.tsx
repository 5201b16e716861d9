import { useEffect, useState } from "react";
import { answer, api, type Schemas } from "@/api/client";
import { Answer } from "./Answer";
import { ReportForm } from "./ReportForm";
import { firstLanguage, LANGUAGES, type Words, WordsContext, wordsOf } from "./words";

const CHOSEN = "report-language";

/** The page of whoever found a tag: no account, one form, and the answer. */
export function FinderPage({ address }: { address: string }) {
  const [words, setWords] = useState<Words | null>(null);
  const [page, setPage] = useState<Schemas["PublicPage"] | "closed" | null>(null);
  const [told, setTold] = useState<Schemas["Answer"] | null>(null);
  const speak = (language: string) =>
    wordsOf(language).then((spoken) => {
      document.documentElement.lang = language;
      document.title = spoken.say("page-title");
      setWords(spoken);
    });

  useEffect(() => {
    void speak(firstLanguage(localStorage.getItem(CHOSEN), navigator.languages));
    const params = { params: { path: { address } } };
    answer(api.GET("/api/v1/public/pages/{address}", params)).then(setPage, () => setPage("closed"));
  }, [address]);

  const language = words?.language;
  useEffect(() => {
    const link = location.hash.slice(1);
    if (!link || !language) return;
    // a link that is none leads to the form, as the address without it does
    const params = { params: { path: { link }, query: { language } } };
    answer(api.GET("/api/v1/public/reports/{link}", params)).then(setTold, () => setTold(null));
  }, [language]);

  if (!words) return null;
  const { say } = words;
  const show = (next: Schemas["Answer"] | null) => {
    setTold(next);
    history.replaceState(null, "", next ? `#${next.key}` : location.pathname);
    scrollTo(0, 0);
  };
  const choose = (language: string) => {
    localStorage.setItem(CHOSEN, language);
    void speak(language);
  };
  return (
    <WordsContext value={words}>
      <header className="border-b border-line">
        <div className="mx-auto flex max-w-xl items-center gap-3 px-4">
          <p className="min-h-12 flex-1 py-3 font-semibold">{typeof page === "object" && page?.programme}</p>
          <select
            aria-label={say("language")}
            className="min-h-[44px] bg-transparent"
            value={words.language}
            onChange={({ target }) => choose(target.value)}
          >
            {LANGUAGES.map((each) => (
              <option key={each} value={each}>
                {new Intl.DisplayNames([each], { type: "language" }).of(each)}
              </option>
            ))}
          </select>
        </div>
      </header>
      <main className="mx-auto max-w-xl px-4">
        {told && <Answer told={told} onTold={setTold} onAnother={() => show(null)} />}
        {!told && page === null && <p className="py-6 text-muted">{say("page-loading")}</p>}
        {!told && page === "closed" && <p className="py-6">{say("page-closed")}</p>}
        {!told && typeof page === "object" && page && (
          <>
            <h1 className="pt-4 text-2xl font-semibold">{say("page-title")}</h1>
            <p className="pt-1">{say("ask")}</p>
            {page.greeting && <p className="pt-1">{page.greeting}</p>}
            <p className="mt-2 border-l-4 border-signal bg-raised px-3 py-2">{say("alive-first")}</p>
            <ReportForm address={address} page={page} onAnswer={show} />
          </>
        )}
        {typeof page === "object" && page && (page.telephone || page.email) && (
          <p className="border-t border-line py-4 text-sm text-muted">
            {say("reach-us")} {page.telephone} {page.email && <a href={`mailto:${page.email}`}>{page.email}</a>}
          </p>
        )}
      </main>
    </WordsContext>
  );
}
