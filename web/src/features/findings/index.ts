export { FindingsScreen } from "./FindingsScreen";
