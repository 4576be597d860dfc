export * from './model/index.js';
export * from './notation/index.js';
export * from './world/index.js';
export * from './machine/index.js';
export * from './run/index.js';
export * from './scout/index.js';
export * from './findings/index.js';
export * from './kits/index.js';
