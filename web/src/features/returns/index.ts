export { ReturnsScreen } from "./ReturnsScreen";
