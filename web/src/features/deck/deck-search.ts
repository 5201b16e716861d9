/** What the address of an outing may hold: a fish whose sheet is to be open. */
export interface DeckSearch {
  fish?: string;
}

export const readDeckSearch = (given: Record<string, unknown>): DeckSearch =>
  typeof given.fish === "string" ? { fish: given.fish } : {};
