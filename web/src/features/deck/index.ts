export { DeckScreen } from "./DeckScreen";
export { useFetchAhead } from "./fetch-ahead";
export { MeasuringBoard } from "./MeasuringBoard";
export { OutingsScreen } from "./OutingsScreen";
