export { FishSheet } from "./FishSheet";
export { FileScreen } from "./files/FileScreen";
export { FilesScreen } from "./files/FilesScreen";
export { RecordsScreen } from "./RecordsScreen";
