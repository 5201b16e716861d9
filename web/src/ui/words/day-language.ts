/** In which language days are written and read: the person's own, or their programme's. */

export const DAY_LANGUAGES = {
  "en-GB": "English: 25 Nov 2026",
  "en-US": "English: Nov 25, 2026",
  cs: "čeština",
  da: "dansk",
  de: "Deutsch",
  es: "español",
  et: "eesti",
  fi: "suomi",
  fr: "français",
  hr: "hrvatski",
  is: "íslenska",
  it: "italiano",
  lt: "lietuvių",
  lv: "latviešu",
  nb: "norsk",
  nl: "Nederlands",
  pl: "polski",
  pt: "português",
  sl: "slovenščina",
  sv: "svenska",
} as const;

export type DayLanguage = keyof typeof DAY_LANGUAGES;

interface Writing {
  day: Intl.DateTimeFormat;
  /** How each month is called, long and short, in small letters without accents. */
  months: readonly (readonly string[])[];
}

// making a formatter costs more than a hundred uses of it
let spoken: DayLanguage = "en-GB";
let writing = writingOf(spoken);

/** A session that was kept by an earlier version says nothing of a language. */
export function setDayLanguage(language: DayLanguage = "en-GB"): void {
  if (language !== spoken) writing = writingOf(language);
  spoken = language;
}

export const currentWriting = (): Writing => writing;

/** Letters as they are compared: small, without accents. */
export function plainLetters(text: string): string {
  return text.normalize("NFD").replace(/\p{M}/gu, "").toLowerCase();
}

function writingOf(language: DayLanguage): Writing {
  const day = new Intl.DateTimeFormat(language, { day: "numeric", month: "short", year: "numeric", timeZone: "UTC" });
  const name = (style: "short" | "long", month: number) =>
    plainLetters(
      new Intl.DateTimeFormat(language, { day: "numeric", month: style, timeZone: "UTC" })
        .formatToParts(new Date(Date.UTC(2026, month, 15)))
        .find(({ type }) => type === "month")!.value,
    ).replace(/\.$/, "");
  const months = Array.from({ length: 12 }, (_, month) => [name("short", month), name("long", month)]);
  return { day, months };
}
