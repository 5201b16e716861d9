/** Colours of the page, for what is drawn by hand. */
export interface Palette {
  ink: string;
  muted: string;
  line: string;
  data: string;
  signal: string;
  raised: string;
  paper: string;
  wash: string;
  /** Family of the page, for words drawn by hand. */
  font: string;
  bands: string[];
}

/** The colours in force: read anew where the theme changes. */
export function readPalette(): Palette {
  const style = getComputedStyle(document.documentElement);
  const read = (name: string) => style.getPropertyValue(`--${name}`).trim();
  return {
    ink: read("ink"),
    muted: read("muted"),
    line: read("line"),
    data: read("data"),
    signal: read("signal"),
    raised: read("raised"),
    paper: read("paper"),
    wash: read("wash"),
    font: getComputedStyle(document.body).fontFamily,
    bands: [1, 2, 3, 4, 5].map((place) => read(`band-${place}`)),
  };
}
