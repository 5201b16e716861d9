export { KitScreen } from "./KitScreen";
