/** Choosing captures, as other features do it too. */
export { useSelectionOptions } from "./queries";
export { SelectionPanel, selectionGrid, useFolded } from "./SelectionPanel";
export { asAddress, changed, fishOf, rowsQuery, type Selection } from "./selection";
export { useAddressSelection } from "./use-address-selection";
