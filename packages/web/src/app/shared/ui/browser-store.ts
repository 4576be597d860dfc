/** What this browser remembers under a name, or undefined; nothing when it keeps nothing. */
export function stored(name: string): string | undefined {
  try {
    return localStorage.getItem(`glenmark.${name}`) ?? undefined;
  } catch {
    return undefined;
  }
}

/** Lets the browser remember a text under a name, or forget it. One that keeps nothing goes on without. */
export function store(name: string, text: string | undefined): void {
  try {
    if (text === undefined) localStorage.removeItem(`glenmark.${name}`);
    else localStorage.setItem(`glenmark.${name}`, text);
  } catch {
    // What was chosen holds until the page goes.
  }
}
