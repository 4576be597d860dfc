/**
 * The first of a list for which a question is answered no, by place; it is yes for the first of them and no for the last.
 * Asks about as many as the list can be halved. Where the answers go to and fro it is one of the places where a yes is
 * followed by a no.
 */
export async function firstNot<T>(list: readonly T[], holds: (item: T) => Promise<boolean>): Promise<number> {
  let [yes, no] = [0, list.length - 1];
  while (no - yes > 1) {
    const middle = Math.floor((yes + no) / 2);
    // Each answer decides what is asked next.
    if (await holds(list[middle] as T)) yes = middle;
    else no = middle;
  }
  return no;
}
