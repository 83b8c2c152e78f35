export { Briefs } from "./briefs";
