/**
 * What an editor asks of a document that somebody writes, as plain data with offsets into its text: `openDocument` reads it,
 * broken as it may be; `troubles`, `help`, `complete`, `outline`, `folds`, `format` and `rename` each answer one question.
 * Nothing here knows a protocol or a screen.
 */
export * from './open-document.js';
export * from './troubles.js';
export * from './complete.js';
export * from './help.js';
export * from './outline.js';
export * from './folds.js';
export * from './format.js';
export * from './rename.js';
export * from './actions.js';
