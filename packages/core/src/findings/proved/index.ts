/**
 * What is proved without running anything: `structure` asks the graph, `guard` whether a crossing can open, `overshadow`
 * whether it always loses, under the `constants` that nobody ever writes; `bindings`, `probes` and `tidy` read the
 * tables; `on-courses` adds what some courses rule out; `skeleton` follows everything discrete. What is only possible there is suspected.
 */
export * from './constants.js';
export * from './guard.js';
export * from './overshadow.js';
export * from './structure.js';
export * from './on-courses.js';
export { groundOf, reachFrom, type Rise, riseOn } from './place/index.js';
export * from './bindings.js';
export * from './probes.js';
export * from './tidy/index.js';
export * from './skeleton/index.js';
