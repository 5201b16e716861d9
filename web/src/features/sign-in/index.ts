export { Join } from "./Join";
export { NewPassword } from "./NewPassword";
export { SignIn } from "./SignIn";
