/**
 * How near counts as equal. Every tolerance of the core stands here with its unit and its reason, so that no two places
 * disagree about one.
 */

/** Nearer than this is touching (m). Coordinates up to 1e6 m hold a tenth of it. */
export const TOUCHING = 1e-9;

/** Overlap up to this is no collision but left to separation (m): far more than rounding, far less than anyone sees. */
export const SKIN = 0.001;

/** A slant below this is no approach but a graze: rounding alone makes as much at a seam between two solids. */
export const GRAZE = 1e-6;

/** A velocity away from the ground by more than this leaves it (m/s): what rounding leaves of a speed along a slope is less. */
export const LEAVING = 1e-6;

/** A velocity that a move changed by no more than this met nothing (m/s): following a slope rounds by far less. */
export const UNTURNED = 1e-9;

/** Slower than this is at rest (m/s): what rounding leaves of a speed that was stopped is far less. */
export const REST = 1e-9;

/** Where a touching body rests is a whole number of these parts of a metre, when it is within `NEAR_GRID` of one. */
export const GRID = 1e9;
/** How far rounding may have moved a resting body (m). */
export const NEAR_GRID = 1e-12;

/** Beyond a tether's limit by no more than this, a body is at it (m). */
export const TETHER_SLACK = 1e-6;

/** Ground flatter than this is level for `downhill` and `uphill` (degrees). */
export const LEVEL = 1;

/** A length of time this little above a whole number of ticks is that number (ticks): 0.1 s at 60 per second is 6, not 7. */
export const TICK_SLACK = 1e-6;

/** A tick of one grid this little before a tick of another is that tick (ticks). */
export const GRID_SLACK = 1e-9;

/** Slower than this stands still, for people who measure a braking distance (m/s). */
export const STILL = 0.01;

/** Bodies of two runs further apart than this have diverged, when the runs have different tick rates (m). */
export const APART = 0.1;

/** Feet this far inside a solid are no rounding but a mistake of the course (m). */
export const SPAWN_SLACK = 0.01;

/** Writes to a channel that differ by less are no conflict (m/s). */
export const SAME_SPEED = 0.05;

/** The relative error of one rounded operation on doubles, doubled for safety. */
export const ROUNDING = 2 ** -52;

/** How far elimination may be off, as a share of the greatest number that went into it: some hundred operations. */
export const ELIMINATION = 1e-9;

/** No number of a run is greater than this either way: speeds and number variables are held there, so none overflows. */
export const LARGEST = 1e9;

/** A number as a run can hold it: within `LARGEST`, and 0 for what is no number. */
export const bounded = (n: number): number =>
  n > LARGEST ? LARGEST : n < -LARGEST ? -LARGEST : Number.isNaN(n) ? 0 : n;
