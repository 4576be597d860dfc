/**
 * Findings: `catalogue` names the faults and says what establishes each, `sentences` puts them into words. `proved` are
 * those that hold whatever is played, `witnessed` those that a run shows, `searched` those that scouting comes to. `check`
 * puts them together, `repairs` offers ways out and draws reasons, `report` writes them down for other programs.
 */
export * from './catalogue/catalogue.js';
export * from './catalogue/evidence.js';
export * from './catalogue/help.js';
export * from './catalogue/silence.js';
export * from './catalogue/undecided.js';
export * from './sentences/finding.js';
export { constantWords } from './sentences/words.js';
export * from './proved/index.js';
export * from './witnessed/index.js';
export * from './searched/index.js';
export * from './coverage.js';
export * from './check.js';
export * from './search-texts.js';
export * from './repairs/drawing.js';
export * from './repairs/repairs.js';
export * from './repairs/tried.js';
export * from './report/sarif.js';
export * from './report/junit.js';
export { levelOf } from './report/level.js';
export * from './report/reason-places.js';
