/**
 * Tuning: what turning dials does to what tapes come to. `turnables` are the dials that can be turned, `trials` plays
 * tapes at many settings of them, `outcomes` says what a run comes to. On these stand `matter` (which dials can move an
 * outcome at all), `sensitivity` (by how much), `sweep` (over a range) and `seek` (values that meet goals).
 */
export * from './turnables.js';
export * from './trials.js';
export * from './outcomes.js';
export * from './matter.js';
export * from './sensitivity.js';
export * from './sweep.js';
export * from './goals.js';
export * from './closed-forms.js';
export * from './minimise.js';
export * from './seek.js';
