/** The server in pieces: configuration, store, checking, scouting, application, and `serve`, which puts them together. */
export * from './config.js';
export * from './store/store.js';
export type { DocumentChange } from './store/changes.js';
export { lockFolder } from './store/lock.js';
export * from './http/app.js';
export { createHttpServer } from './http/http-server.js';
export * from './serve.js';
export { createChecker, type Check, type Checker } from './checking/checker.js';
export { ProblemError } from './problem.js';
export { createScoutings, type Scoutings } from './scouting/scoutings.js';
export { openAccess, type AccessKeys } from './access-keys.js';
export { createMetrics, type Metrics } from './metrics.js';
export { readBackup, type Backup } from './backup/read-backup.js';
export { writeBackup } from './backup/write-backup.js';
export type { History } from './store/histories.js';
export { connectionsTo } from './store/connections.js';
export { createSharedScoutings } from './scouting/shared/shared-scoutings.js';
export { runWorker, type RunningWorker } from './scouting/shared/worker.js';
