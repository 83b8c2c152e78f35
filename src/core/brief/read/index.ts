export { MAX_WORDING, type Reading, readWording, UNNAMED, type Unread } from "./reading";
