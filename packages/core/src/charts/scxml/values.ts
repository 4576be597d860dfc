/** The namespace of what a chart of the W3C cannot say. */
export const OURS = 'urn:glenmark:moveset';
export const SCXML = 'http://www.w3.org/2005/07/scxml';

/** Text as it stands in XML; line ends and tabs are written so that a reader gives them back as they were. */
export const escaped = (text: string): string =>
  text.replace(/[&<>"\t\n\r]/g, (c) => `&${ESCAPES[c] ?? `#${c.charCodeAt(0)}`};`);

const ESCAPES: Partial<Record<string, string>> = { '&': 'amp', '<': 'lt', '>': 'gt', '"': 'quot' };

/** An attribute with a space before it; nothing for what is not there. */
export const attribute = (name: string, value: string | undefined): string =>
  value === undefined ? '' : ` ${name}="${escaped(value)}"`;

/**
 * The entries of a map as elements of ours, each under its key. A text, number or truth stands in an attribute; a map has
 * entries, a list has items.
 */
export const entryLines = (map: object): string[] =>
  Object.entries(map).flatMap(([key, value]) =>
    value === undefined ? [] : valueLines('gm:entry', attribute('key', key), value),
  );

function valueLines(name: string, attributes: string, value: unknown): string[] {
  if (typeof value === 'string') return [`<${name}${attributes}${attribute('text', value)}/>`];
  if (Array.isArray(value))
    return element(
      name,
      attributes + attribute('of', 'items'),
      value.flatMap((item) => valueLines('gm:item', '', item)),
    );
  if (typeof value === 'object' && value !== null) return element(name, attributes, entryLines(value));
  return [
    `<${name}${attributes}${attribute(typeof value === 'number' ? 'number' : 'truth', String(value))}/>`,
  ];
}

/** An element with its attributes, and what is in it, indented. */
export const element = (name: string, attributes: string, body: readonly string[]): string[] =>
  body.length === 0
    ? [`<${name}${attributes}/>`]
    : [`<${name}${attributes}>`, ...body.map((line) => `  ${line}`), `</${name}>`];
