export { FishPage } from "./FishPage";
export { TagsScreen } from "./TagsScreen";
