export { MAX_WORDING, readWording, UNNAMED, type Reading, type Unread } from "./reading";
