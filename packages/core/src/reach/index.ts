/**
 * Where a body gets to on a course: a scouting (`reaching`) that notes every cell of a `raster`, how soon it was there and
 * by which way; the same `without` an ability; what proves a place `beyond` reach; and the `pits` that it gets into and not
 * out of, among where it `stands`: the `sinks` of what leads from where to where.
 */
export * from './raster.js';
export * from './reaching.js';
export * from './without.js';
export * from './beyond.js';
export { type Pit } from './pits.js';
export { sinksOf } from './sinks.js';
