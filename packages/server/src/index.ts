/** The server in pieces: configuration, store, application, and `serve`, which puts them together. */
export * from './config.js';
export * from './store.js';
export * from './app.js';
export * from './serve.js';
export { ProblemError } from './problem.js';
export { createScoutings, type Scoutings } from './scoutings.js';
