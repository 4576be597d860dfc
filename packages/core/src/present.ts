/**
 * What is known to be there though the types cannot know it: a compiled machine is full of indexes into lists, each of
 * which is right by how it was made. If one is wrong all the same, it fails here and not somewhere later.
 * @throws {TypeError} when it is not there
 */
export function present<T>(value: T): NonNullable<T> {
  if (value === undefined || value === null)
    throw new TypeError(`found ${String(value)}, expected something`);
  return value;
}
