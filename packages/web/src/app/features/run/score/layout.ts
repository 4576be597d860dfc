/** Width of the names to the left of the time axis, and of the room at its right end, in pixels. */
export const GUTTER = 112;
export const RIGHT = 14;
/** Height of a row. */
export const ROW = 21;
