/** Choosing fish: of which captures a finding, the record or a plan speaks. */
export { NothingYet } from "./NothingYet";
export { SelectionPanel, selectionGrid, useFolded } from "./SelectionPanel";
export {
  asAddress,
  askedOf,
  asQuery,
  changed,
  fishOf,
  fromQuery,
  GROUPINGS,
  type Grouping,
  LONGEST_IN_ADDRESS,
  questionOf,
  readSelection,
  rowsQuery,
  type Selection,
  SPREADS,
  type Spread,
} from "./selection";
export { useAddressSelection } from "./use-address-selection";
export { useSelectionOptions } from "./use-selection-options";
