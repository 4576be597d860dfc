/** A moveset for other tools: the grid of its crossings as CSV, its states and crossings as a graph in DOT. */
export { dotOf } from './dot.js';
export { gridCsv } from './grid-csv.js';
