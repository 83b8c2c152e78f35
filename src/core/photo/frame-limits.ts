/** The most that a photo can be straightened either way, in degrees; beyond that it is a quarter turn. */
export const MOST_ANGLE = 45;
export const MOST_ZOOM = 1000;
