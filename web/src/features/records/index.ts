export { FishLife } from "./FishLife";
export { FishSheet } from "./FishSheet";
export { FileScreen } from "./files/FileScreen";
export { FilesScreen } from "./files/FilesScreen";
export { useFishStory } from "./queries";
export { RecordsScreen } from "./RecordsScreen";
export { WhoseMarks } from "./WhoseMarks";
