export { DeckScreen } from "./DeckScreen";
export { MeasuringBoard } from "./MeasuringBoard";
export { OutingsScreen } from "./OutingsScreen";
