export { FinderPage } from "./FinderPage";
