/** A moveset for other tools: as a chart (SCXML) and back, its crossings as a table (CSV), and as a graph (DOT). */
export { dotOf } from './dot.js';
export { gridCsv } from './grid-csv.js';
export * from './scxml/index.js';
