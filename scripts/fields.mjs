// Every field that a schema allows, with the first use of it among the samples.
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { jsonSchema, kindOf, parseSource, sourceValue } from '../packages/core/dist/model/index.js';
import { root } from './build.mjs';

const FILES = ['', 'mechanics/'].flatMap((folder) =>
  readdirSync(join(root, 'examples', folder))
    .filter((f) => f.endsWith('.yaml'))
    .map((f) => folder + f),
);

/** Field paths of a kind of document in schema order, each with an example `{ text, file }` or undefined. */
export function fieldExamples(kind) {
  const schema = jsonSchema(kind);
  const found = new Map();
  const see = (path, value, file) => {
    if (!found.has(path) || (found.get(path) === undefined && value !== undefined))
      found.set(path, value === undefined ? undefined : { text: short(value), file });
  };
  walk(schema, schema, undefined, '', see, undefined, 0);
  for (const file of FILES) {
    const text = readFileSync(join(root, 'examples', file), 'utf8');
    if (kindOf(text) === kind)
      walk(schema, schema, sourceValue(parseSource(text).source).value, '', see, file, 0);
  }
  return found;
}

/** Goes through schema and value together; without a value it only names the fields. */
function walk(whole, schema, value, path, see, file, depth) {
  if (depth > 24) return;
  if (schema.$ref !== undefined) {
    // A state may hold states; the fields of the inner ones are the same.
    if (value === undefined && depth > 8) return;
    return walk(whole, resolve(whole, schema.$ref), value, path, see, file, depth + 1);
  }
  for (const option of schema.anyOf ?? schema.oneOf ?? [])
    walk(whole, option, value, path, see, file, depth + 1);
  const isMapping = typeof value === 'object' && value !== null && !Array.isArray(value);
  for (const [key, inner] of Object.entries(schema.properties ?? {})) {
    const own = isMapping ? value[key] : undefined;
    if (value !== undefined && own === undefined) continue;
    const at = path === '' ? key : `${path}.${key}`;
    const nested = at.replace(/(\.states\.\*)+/g, '.states.*');
    see(nested, own, file);
    walk(whole, inner, own, nested, see, file, depth + 1);
  }
  if (typeof schema.additionalProperties === 'object') {
    const values = isMapping ? Object.values(value) : value === undefined ? [undefined] : [];
    for (const own of values)
      walk(whole, schema.additionalProperties, own, `${path}.*`, see, file, depth + 1);
  }
  if (schema.items !== undefined && schema.items !== false) {
    const values = Array.isArray(value) ? value : value === undefined ? [undefined] : [];
    for (const own of values) walk(whole, schema.items, own, `${path}[]`, see, file, depth + 1);
  }
}

const resolve = (whole, ref) =>
  ref === '#'
    ? whole
    : ref
        .replace('#/', '')
        .split('/')
        .reduce((at, step) => at[step], whole);

function short(value) {
  const text = typeof value === 'string' ? value : JSON.stringify(value);
  return (text.length > 60 ? `${text.slice(0, 57)}…` : text).replaceAll('|', '\\|').replaceAll('`', "'");
}
