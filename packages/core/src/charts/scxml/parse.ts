import { SaxesParser } from 'saxes';
import { type Diagnostic, MAX_TEXT, utf8Length } from '../../model/index.js';

/** An element of a chart, with where it begins. */
export interface Node {
  /** Its name without a prefix, and its namespace. */
  name: string;
  uri: string;
  /** By name; those of a namespace as `uri name`. */
  attributes: ReadonlyMap<string, string>;
  children: Node[];
  text: string;
  line: number;
  column: number;
}

/** Deeper than this no chart is. */
const MAX_DEPTH = 100;
const MAX_ELEMENTS = 100_000;

/** Ends the reading of a document at what is wrong with it. */
class Refusal extends Error {}

/**
 * Reads XML as a tree of elements. A document that declares a type is refused, and with it every entity of its own: so
 * are those that are nested deeply, or long. Never throws.
 */
export function parseXml(text: string): { root?: Node; diagnostics: Diagnostic[] } {
  const refused = (message: string, line = 1, column = 1): { diagnostics: Diagnostic[] } => ({
    diagnostics: [{ severity: 'error', message, path: [], line, column }],
  });
  if (text.length > MAX_TEXT || utf8Length(text) > MAX_TEXT)
    return refused(`found ${utf8Length(text)} bytes, expected at most ${MAX_TEXT}`);
  const parser = new SaxesParser({ xmlns: true });
  const open: Node[] = [];
  let root: Node | undefined;
  let count = 0;
  let at = { line: 1, column: 1 };
  parser.on('doctype', () => {
    throw new Refusal('found a document type, expected a chart without one');
  });
  parser.on('error', (error) => {
    // The parser begins its messages with the place, which is told apart.
    throw new Refusal(`found what is no XML: ${error.message.replace(/^\d+:\d+: /, '')}`);
  });
  parser.on('opentagstart', ({ name }) => {
    at = { line: parser.line, column: Math.max(1, parser.column - name.length - 1) };
  });
  parser.on('opentag', (tag) => {
    if (++count > MAX_ELEMENTS) throw new Refusal(`found more than ${MAX_ELEMENTS} elements`);
    if (open.length >= MAX_DEPTH) throw new Refusal(`found elements nested deeper than ${MAX_DEPTH}`);
    const node: Node = {
      name: tag.local,
      uri: tag.uri,
      attributes: new Map(
        Object.values(tag.attributes).map(({ local, uri, value }) => [
          uri === '' ? local : `${uri} ${local}`,
          value,
        ]),
      ),
      children: [],
      text: '',
      ...at,
    };
    open[open.length - 1]?.children.push(node);
    root ??= node;
    open.push(node);
  });
  parser.on('closetag', () => void open.pop());
  const take = (piece: string): void => {
    const last = open[open.length - 1];
    if (last !== undefined) last.text += piece;
  };
  parser.on('text', take);
  parser.on('cdata', take);
  try {
    parser.write(text).close();
  } catch (error) {
    if (error instanceof Refusal) return refused(error.message, parser.line, Math.max(1, parser.column));
    throw error;
  }
  return root === undefined ? refused('found no element, expected a chart') : { root, diagnostics: [] };
}
