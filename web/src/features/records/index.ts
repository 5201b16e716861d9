export { FishSheet } from "./FishSheet";
