import { jsonSchema, type Kind } from '../model/index.js';

/** A part of a JSON Schema, as far as completing needs it. */
interface Shape {
  description?: string;
  type?: string | string[];
  properties?: Record<string, Shape>;
  additionalProperties?: Shape | boolean;
  items?: Shape | boolean;
  prefixItems?: Shape[];
  enum?: unknown[];
  const?: unknown;
  anyOf?: Shape[];
  $ref?: string;
  $defs?: Record<string, Shape>;
}

/** A key that a mapping may have, and what the format says of it. */
export interface Field {
  name: string;
  help: string;
}

/** What may stand at a place of a document. */
export interface Expected {
  fields: Field[];
  /** Values of which it must be one. */
  values: string[];
  /** Whether it is a piece of notation. */
  isNotation: boolean;
}

const schemas = new Map<Kind, Shape>();

function schemaOf(kind: Kind): Shape {
  const schema = schemas.get(kind) ?? (jsonSchema(kind) as Shape);
  schemas.set(kind, schema);
  return schema;
}

/** What the format of a kind of document has room for at a path of keys, with `-` for the items of lists. */
export function expectedAt(kind: Kind, path: readonly string[]): Expected {
  const shapes = shapesAt(kind, path);
  const fields = new Map<string, Field>();
  for (const { properties = {} } of shapes)
    for (const [name, shape] of Object.entries(properties))
      fields.set(name, { name, help: shape.description ?? helpOfShape(kind, shape) });
  const values = shapes.flatMap((shape) => [
    ...(shape.enum ?? []),
    ...('const' in shape ? [shape.const] : []),
  ]);
  const isTruth = shapes.some(({ type }) => type === 'boolean');
  return {
    fields: [...fields.values()],
    values: [...new Set([...values.map(String), ...(isTruth ? ['true', 'false'] : [])])],
    isNotation: shapes.some(({ type }) => Array.isArray(type)),
  };
}

/** What the format says of the key at the end of a path; undefined when it is not one of the format's own. */
export function fieldAt(kind: Kind, path: readonly string[]): Field | undefined {
  const last = path.at(-1);
  return expectedAt(kind, path.slice(0, -1)).fields.find(({ name }) => name === last);
}

function shapesAt(kind: Kind, path: readonly string[]): Shape[] {
  const root = schemaOf(kind);
  return path.reduce<Shape[]>(
    (shapes, step) =>
      shapes.flatMap((shape) => inside(shape, step)).flatMap((shape) => alternatives(root, shape)),
    alternatives(root, root),
  );
}

function inside({ properties, additionalProperties, items, prefixItems }: Shape, step: string): Shape[] {
  if (step === '-') return [...(prefixItems ?? []), ...(typeof items === 'object' ? [items] : [])];
  const own = properties !== undefined && Object.hasOwn(properties, step) ? properties[step] : undefined;
  if (own !== undefined) return [own];
  return typeof additionalProperties === 'object' ? [additionalProperties] : [];
}

/** A shape with what it refers to and all that it may be in its place. */
function alternatives(root: Shape, shape: Shape): Shape[] {
  const name = shape.$ref?.replace('#/$defs/', '');
  const referred = name === undefined ? undefined : name === '#' ? root : root.$defs?.[name];
  return [
    shape,
    ...(referred === undefined ? [] : alternatives(root, referred)),
    ...(shape.anyOf ?? []).flatMap((each) => alternatives(root, each)),
  ];
}

/** What a shape is, in a few words, where the format says nothing. */
function helpOfShape(kind: Kind, shape: Shape): string {
  const all = alternatives(schemaOf(kind), shape);
  const values = all.flatMap((each) => each.enum ?? []);
  if (values.length > 0) return values.join(', ');
  if (all.some(({ type }) => Array.isArray(type))) return 'notation';
  const words: Record<string, string> = {
    array: 'a list',
    object: 'a mapping',
    string: 'text',
    boolean: 'true or false',
    integer: 'a whole number',
    number: 'a number',
  };
  return [
    ...new Set(all.flatMap(({ type }) => (typeof type === 'string' ? [words[type] ?? type] : []))),
  ].join(', or ');
}
