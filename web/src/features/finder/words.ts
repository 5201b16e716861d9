import { FluentBundle, FluentResource, type FluentVariable } from "@fluent/bundle";
import { negotiateLanguages } from "@fluent/langneg";
import { createContext, useContext } from "react";

/** One catalogue a language, the same that letters are written by; a further language is one more file. */
const CATALOGUES = import.meta.glob<string>("../../../../server/nailwright/returns/languages/*.ftl", {
  query: "?raw",
  import: "default",
});
const codeOf = (path: string) => path.split("/").at(-1)!.replace(".ftl", "");

/** How days and numbers are written where the language alone does not say. */
const LOCALES: Record<string, string> = { en: "en-GB" };

/** Codes of the languages there are. */
export const LANGUAGES = Object.keys(CATALOGUES).map(codeOf).sort();

export interface Words {
  language: string;
  say: (key: string, values?: Record<string, FluentVariable>) => string;
  has: (key: string) => boolean;
}

/** The language to begin with: the one chosen before, or the first of the phone's that there is. */
export function firstLanguage(chosen: string | null, wanted: readonly string[]): string {
  return negotiateLanguages(chosen ? [chosen, ...wanted] : [...wanted], LANGUAGES, {
    defaultLocale: "en",
    strategy: "lookup",
  })[0]!;
}

export async function wordsOf(language: string): Promise<Words> {
  const path = Object.keys(CATALOGUES).find((each) => codeOf(each) === language);
  if (!path) throw new Error(`There is no catalogue for ${language}.`);
  const bundle = new FluentBundle(LOCALES[language] ?? language, { useIsolating: false });
  bundle.addResource(new FluentResource(await CATALOGUES[path]!()));
  return {
    language,
    has: (key) => bundle.hasMessage(key),
    say: (key, values) => {
      const pattern = bundle.getMessage(key)?.value;
      if (!pattern) throw new Error(`'${key}' has no text in ${language}.`);
      return bundle.formatPattern(pattern, values ?? null);
    },
  };
}

export const WordsContext = createContext<Words | null>(null);

export function useWords(): Words {
  const words = useContext(WordsContext);
  if (!words) throw new Error("No words yet.");
  return words;
}
