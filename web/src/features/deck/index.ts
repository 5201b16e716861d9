export { DeckScreen } from "./DeckScreen";
export { OutingsScreen } from "./OutingsScreen";
