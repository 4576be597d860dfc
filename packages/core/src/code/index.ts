/**
 * A moveset as source for the game: `outline` lays out its lowered tick with a name for every value (`members`), without
 * what only our own tools need (`rewrite`, `prune`, `tidy`), and with its dials as constants (`dials`); `print` has a file
 * for each language over the printer that they share.
 */
export { type Outline, outlineOf } from './outline.js';
export type { Member, Owner, Type } from './members.js';
export { type Language } from './print/language.js';
export { LANGUAGES } from './print/languages.js';
export { readmeOf } from './readme.js';
