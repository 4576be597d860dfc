/**
 * Where a body gets to on a course: a scouting (`reaching`) that notes every cell of a `raster`, how soon it was there and
 * by which way; the same `without` an ability; and what proves a place `beyond` reach.
 */
export * from './raster.js';
export * from './reaching.js';
export * from './without.js';
export * from './beyond.js';
