/**
 * A moveset as a chart in SCXML (W3C), and a chart as a moveset: `write` and `read`. `values` and `read-values` are the
 * elements of ours for what a chart cannot say; `parse` reads XML with bounds, and without entities of its own.
 */
export { type NotCarried, type ReadChart, readScxml } from './read.js';
export { scxmlOf } from './write.js';
