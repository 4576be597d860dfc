/** Words as one name: `slide time left` as `slideTimeLeft`. Inside a word the letters stay as they are. */
export const camel = (words: string): string => {
  const [first = '', ...rest] = partsOf(words);
  // A name that is all capitals, or a word of ours, begins small; what follows keeps its humps.
  return [first.charAt(0).toLowerCase() + first.slice(1), ...rest.map(capital)].join('');
};

/** The same with a capital: `SlideTimeLeft`. */
export const pascal = (words: string): string => partsOf(words).map(capital).join('');

/** `slide_time_left`: for the names of files. */
export const snake = (words: string): string =>
  partsOf(words.replace(/([a-z0-9])([A-Z])/g, '$1 $2'))
    .join('_')
    .toLowerCase();

const capital = (word: string): string => word.charAt(0).toUpperCase() + word.slice(1);

/** The words of a name, of letters and digits that every language takes; what begins with a digit comes after an n. */
function partsOf(words: string): string[] {
  const parts = words
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .split(/[^A-Za-z0-9_]+/)
    .filter((part) => part !== '');
  if (parts.length === 0) return ['unnamed'];
  return /^\d/.test(parts[0] ?? '') ? ['n', ...parts] : parts;
}

/** A name for each of several things, no two the same and none reserved. */
export function namesFor<T>(
  things: readonly T[],
  nameOf: (thing: T) => string,
  reserved: ReadonlySet<string> = new Set(),
): Map<T, string> {
  const names = new Map<T, string>();
  const taken = new Set<string>();
  for (const thing of things) {
    const wanted = nameOf(thing);
    let name = reserved.has(wanted) ? `${wanted}_` : wanted;
    for (let n = 2; taken.has(name); n++) name = `${wanted}_${n}`;
    taken.add(name);
    names.set(thing, name);
  }
  return names;
}
