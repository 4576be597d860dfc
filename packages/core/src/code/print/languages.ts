import { cpp } from './cpp.js';
import { csharp } from './csharp.js';
import type { Language } from './language.js';
import { lua } from './lua.js';
import { typescript } from './typescript.js';

/** The languages that a moveset can be printed in; a further one is a further file. */
export const LANGUAGES: readonly Language[] = [cpp, csharp, lua, typescript];
