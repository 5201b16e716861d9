/** Choosing captures, as other features do it too. */
export { useSelectionOptions } from "./queries";
export { SelectionPanel } from "./SelectionPanel";
export { changed, rowsQuery, type Selection } from "./selection";
