/**
 * `glenmark language-server`: what `@glenmark/core/language` knows of documents, over the Language Server Protocol. `desk` holds
 * the documents, `disk` reads those that are not open, `answers` has an answer for each request, `places` turns offsets into
 * lines, and `checks` has movesets checked in a thread of their own.
 */
export { serveEditor } from './server.js';
