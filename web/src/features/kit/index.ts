export { KitScreen } from "./KitScreen";
export { VolunteersScreen } from "./VolunteersScreen";
