export { CONES, FLARE, flared, OPPONENTS, type Pixels } from "./oklab";
export { Reference, visibleDifference } from "./reference";
export { CELL, CLEAN, type Difference, PLAIN, type Seen, type Shift } from "./types";
