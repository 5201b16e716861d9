export { PaperCardsScreen } from "./PaperCardsScreen";
export { VolunteersScreen } from "./VolunteersScreen";
