/** What server and web application say to each other: documents, problems, the endpoint table, OpenAPI. */
export * from './document.js';
export * from './problem.js';
export * from './endpoints.js';
export * from './openapi.js';
export * from './samples.js';
export * from './scouting.js';
export * from './session.js';
export * from './backup.js';
