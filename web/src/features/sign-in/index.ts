export { Join } from "./Join";
export { NewPassword } from "./NewPassword";
export { ProgrammeFields, type ProgrammeValues } from "./ProgrammeFields";
export { SignIn } from "./SignIn";
