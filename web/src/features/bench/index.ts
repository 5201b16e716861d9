export { BenchScreen } from "./BenchScreen";
export { PracticeScreen } from "./PracticeScreen";
