export { Help, HelpButton } from "./help";
