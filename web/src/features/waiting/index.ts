export { WaitingScreen } from "./WaitingScreen";
