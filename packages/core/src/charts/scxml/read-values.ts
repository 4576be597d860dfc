import type { Node } from './parse.js';
import { OURS } from './values.js';

/** The data of an entry or an item. */
function valueOf({ attributes, children }: Node): unknown {
  const [text, number, truth] = ['text', 'number', 'truth'].map((name) => attributes.get(name));
  if (text !== undefined) return text;
  if (number !== undefined) return Number(number);
  if (truth !== undefined) return truth === 'true';
  return attributes.get('of') === 'items' ? children.map(valueOf) : entriesOf(children);
}

const entriesOf = (nodes: readonly Node[]): Record<string, unknown> =>
  Object.fromEntries(
    nodes.flatMap((entry) => {
      const key = entry.attributes.get('key');
      return key === undefined ? [] : [[key, valueOf(entry)]];
    }),
  );

/** The entries of a map, by key. */
export const mapOf = ({ children }: Node): Record<string, unknown> => entriesOf(children);

/** An attribute of ours. */
export const own = (node: Node, name: string): string | undefined => node.attributes.get(`${OURS} ${name}`);

/** What stands in the element of ours for all that has no place of its own. */
export const moreOf = (node: Node): Record<string, unknown> => {
  const more = node.children.find((child) => child.uri === OURS && child.name === 'more');
  return more === undefined ? {} : mapOf(more);
};
