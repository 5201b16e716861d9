/** On a phone each row is a block of its own, its cells in two columns. */
export const ROW =
  "border-b border-line max-sm:grid max-sm:grid-cols-[1fr_auto] max-sm:items-center max-sm:gap-x-3 max-sm:py-2";
