export { SettingsScreen } from "./SettingsScreen";
