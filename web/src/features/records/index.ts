export { FishSheet } from "./FishSheet";
export { RecordsScreen } from "./RecordsScreen";
