/** The server in pieces: configuration, store, checking, scouting, application, and `serve`, which puts them together. */
export * from './config.js';
export * from './store/store.js';
export { lockFolder } from './store/lock.js';
export * from './http/app.js';
export { createHttpServer } from './http/http-server.js';
export * from './serve.js';
export { createChecker, type Check, type Checker } from './checking/checker.js';
export { ProblemError } from './problem.js';
export { createScoutings, type Scoutings } from './scouting/scoutings.js';
