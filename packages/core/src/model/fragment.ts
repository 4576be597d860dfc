import { parseDocument, stringify } from 'yaml';

/** The longest text that is looked at for a fragment, in UTF-16 units. */
const MAX_FRAGMENT = 200_000;

/** A piece of a document as YAML, as it can stand in a file or on a clipboard. */
export const fragmentText = (value: unknown): string => stringify(value, { lineWidth: 0 });

/** The plain value of a text that is a mapping in YAML, or undefined for any other text. Never throws. */
export function fragmentOf(text: string): Record<string, unknown> | undefined {
  if (text.length > MAX_FRAGMENT) return undefined;
  try {
    const document = parseDocument(text, { stringKeys: true, prettyErrors: false });
    if (document.errors.length > 0) return undefined;
    const value: unknown = document.toJS({ maxAliasCount: 100 });
    return typeof value === 'object' && value !== null && !Array.isArray(value)
      ? (value as Record<string, unknown>)
      : undefined;
  } catch {
    return undefined;
  }
}
