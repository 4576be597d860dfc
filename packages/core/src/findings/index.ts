/**
 * Findings: the catalogue of faults, and how each is established. `structure` asks the graph, `solver` whether a guard
 * can hold under the `laws`, `overshadow` whether a crossing always loses, `skeleton` what everything discrete can come
 * to, `bindings`, `probes` and `tidy` read the tables; `runs` are what a run shows, `scouted` what a scouting does. `check`
 * puts them together, `drawing` shows a reason and `repairs` a way out, `report` writes them down for other programs.
 */
export * from './catalogue.js';
export * from './evidence.js';
export * from './finding.js';
export { constantWords } from './words.js';
export * from './help.js';
export * from './linear.js';
export * from './literals.js';
export * from './laws.js';
export * from './elimination.js';
export * from './solver.js';
export * from './questions.js';
export * from './constants.js';
export * from './guard.js';
export * from './overshadow.js';
export * from './structure.js';
export * from './bindings.js';
export * from './probes.js';
export * from './tidy.js';
export * from './skeleton/index.js';
export * from './runs/index.js';
export * from './coverage.js';
export * from './scouted/index.js';
export * from './drawing.js';
export * from './repairs.js';
export * from './check.js';
export * from './report/sarif.js';
export * from './report/junit.js';
