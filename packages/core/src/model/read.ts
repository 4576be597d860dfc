import { present } from '../present.js';
import type * as z from 'zod';
import { type CourseFile, courseSchema } from './course.js';
import { beyondLimits } from './limits.js';
import { type Diagnostic, isUsable, type Path } from './diagnostics.js';
import { type MovesetFile, movesetSchema } from './moveset.js';
import { diagnosticAt, parseSource, type Source, sourceValue } from './source.js';
import { type TapeFile, tapeSchema } from './tape.js';

/** The version of the file format that this code reads and writes. */
export const FORMAT_VERSION = 1;

export type Kind = 'moveset' | 'course' | 'tape';
export const KINDS: readonly Kind[] = ['moveset', 'course', 'tape'];

/** A document as read: its shape is right when `file` is there; its meaning is not yet checked. */
export interface Reading<T> {
  file?: T;
  source?: Source;
  diagnostics: Diagnostic[];
}

export interface Files {
  moveset: MovesetFile;
  course: CourseFile;
  tape: TapeFile;
}

const schemas: { [K in Kind]: z.ZodType<Files[K]> } = {
  moveset: movesetSchema,
  course: courseSchema,
  tape: tapeSchema,
};

/** Reads a document of one kind from YAML or JSON. Never throws. */
export function readFile<K extends Kind>(kind: K, text: string): Reading<Files[K]> {
  const parsed = parseSource(text);
  if (parsed.source === undefined) return { diagnostics: parsed.diagnostics };
  const source = parsed.source;
  const { value, diagnostics } = sourceValue(source);
  if (!isUsable(diagnostics)) return { source, diagnostics };
  return checkShape(kind, value, source);
}

/** Whether a plain value has the shape of a document; what is wrong is reported at its place in the source, or near it. */
export function checkShape<K extends Kind>(kind: K, value: unknown, source: Source): Reading<Files[K]> {
  const wrongHead = checkHead(kind, value, source);
  if (wrongHead !== undefined) return { source, diagnostics: [wrongHead] };
  const tooMuch = [...beyondLimits(kind, value as object, source), ...forbiddenNames(value, source)];
  if (tooMuch.length > 0) return { source, diagnostics: tooMuch };
  const result = schemas[kind].safeParse(value);
  if (result.success) return { file: result.data, source, diagnostics: [] };
  return {
    source,
    diagnostics: flatten(result.error.issues).map((issue) => toDiagnostic(issue, value, source)),
  };
}

/** The kind that a text says it is, or undefined when it does not say. */
export function kindOf(text: string): Kind | undefined {
  const { source } = parseSource(text);
  const value = source === undefined ? undefined : sourceValue(source).value;
  const kind = (value as { kind?: unknown } | null | undefined)?.kind;
  return KINDS.find((k) => k === kind);
}

function checkHead(kind: Kind, value: unknown, source: Source): Diagnostic | undefined {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) {
    return diagnosticAt(
      source,
      [],
      `found ${describe(value)}, expected a ${kind}: a mapping that begins with 'glenmark: 1'`,
    );
  }
  const head = value as Record<string, unknown>;
  if (typeof head['glenmark'] === 'number' && head['glenmark'] > FORMAT_VERSION) {
    return diagnosticAt(
      source,
      ['glenmark'],
      `this file is of format version ${head['glenmark']}, this Glenmark reads up to version ${FORMAT_VERSION}`,
    );
  }
  if (typeof head['kind'] === 'string' && head['kind'] !== kind) {
    return diagnosticAt(source, ['kind'], `found a ${head['kind']}, expected a ${kind}`);
  }
  return undefined;
}

type Issue = z.core.$ZodIssue;

/** A union that failed says most through the branch that got furthest; without one, it speaks for itself. */
function flatten(issues: readonly Issue[], prefix: PropertyKey[] = []): Issue[] {
  return issues.flatMap((issue): Issue[] => {
    const path = [...prefix, ...issue.path];
    if (issue.code === 'invalid_union' && 'errors' in issue && issue.errors.length > 0) {
      const scored = issue.errors.map((branch) => ({ branch, depth: Math.max(...branch.map(closeness)) }));
      scored.sort((a, b) => b.depth - a.depth);
      if (present(scored[0]).depth > 0 && present(scored[0]).depth > (scored[1]?.depth ?? 0))
        return flatten(present(scored[0]).branch, path);
    }
    return [{ ...issue, path } as Issue];
  });
}

/** How far a branch of a union got before it failed: deeper faults and mere unknown keys mean it was probably meant. */
const closeness = (issue: Issue): number =>
  issue.path.length + (issue.code === 'unrecognized_keys' ? 0.5 : 0);

function toDiagnostic(issue: Issue, value: unknown, source: Source): Diagnostic {
  const path = issue.path.map((step) => (typeof step === 'number' ? step : String(step)));
  if (issue.code === 'unrecognized_keys') {
    return diagnosticAt(source, [...path, present(issue.keys[0])], issue.message, { key: true });
  }
  const found = path.reduce<unknown>(
    (at, step) => (at as Record<string, unknown> | undefined)?.[step],
    value,
  );
  const last = path[path.length - 1];
  if (found === undefined && last !== undefined && issue.code !== 'custom') {
    const parent = path.slice(0, -1);
    return diagnosticAt(source, parent, `'${last}' is missing here, ${expected(issue)}`);
  }
  const key = issue.code === 'invalid_key';
  return diagnosticAt(
    source,
    path,
    `found ${key ? `the name '${String(last)}'` : describe(found)}, ${expected(issue)}`,
    { key },
  );
}

function expected(issue: Issue): string {
  if (issue.message.startsWith('expected')) return issue.message;
  switch (issue.code) {
    case 'invalid_type':
      return `expected ${WORDS[issue.expected] ?? issue.expected}`;
    case 'invalid_value':
      return `expected ${issue.values.map((v) => String(v)).join(' or ')}`;
    case 'too_small':
      return `expected at least ${issue.minimum}${sizeWord(issue.origin)}`;
    case 'too_big':
      return `expected at most ${issue.maximum}${sizeWord(issue.origin)}`;
    case 'invalid_key':
      return issue.issues[0]?.message ?? 'expected a name';
    default:
      return `expected otherwise: ${issue.message}`;
  }
}

const sizeWord = (origin: string): string =>
  origin === 'array' ? ' items' : origin === 'string' ? ' characters' : '';

const WORDS: Record<string, string> = {
  string: 'text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'true or false',
  object: 'a mapping',
  record: 'a mapping',
  array: 'a list',
  tuple: 'a list',
};

function describe(value: unknown): string {
  if (value === null || value === undefined) return 'nothing';
  if (Array.isArray(value)) return `a list of ${value.length}`;
  if (typeof value === 'object') return 'a mapping';
  const text = JSON.stringify(value);
  return text.length > 60 ? `${text.slice(0, 57)}…` : text;
}

/** Keys that no mapping may have: what reads a value would drop them without a word. */
function forbiddenNames(value: unknown, source: Source): Diagnostic[] {
  const waiting: { node: unknown; path: Path }[] = [{ node: value, path: [] }];
  for (let next = waiting.pop(); next !== undefined; next = waiting.pop()) {
    const { node, path } = next;
    if (typeof node !== 'object' || node === null) continue;
    if (Object.hasOwn(node, '__proto__'))
      return [
        diagnosticAt(
          source,
          [...path, '__proto__'],
          `found the name '__proto__', expected another name: this one has a meaning of its own`,
          { key: true },
        ),
      ];
    for (const [key, inner] of Object.entries(node))
      if (typeof inner === 'object')
        waiting.push({ node: inner, path: [...path, Array.isArray(node) ? Number(key) : key] });
  }
  return [];
}

/** Longest short name, with room for a number behind it. */
const MAX_SLUG = 100;

/**
 * The short name by which documents refer to each other: `Mill yard` is `mill-yard`, `Водяная мельница` is
 * `водяная-мельница`. Latin letters lose their accents; a name without any letter or digit gets one made from what it is.
 */
export function slugOf(name: string): string {
  const words = name
    .normalize('NFKD')
    .replace(/(\p{Script=Latin})\p{M}+/gu, '$1')
    .normalize('NFC')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}\p{M}]+/gu, '-')
    .replace(/^-+|-+$/g, '');
  const short = Array.from(words).slice(0, MAX_SLUG).join('').replace(/-+$/, '');
  return short || `untitled-${fingerprint(name)}`;
}

/** A short hash of a text (FNV-1a, 32 bits). */
function fingerprint(text: string): string {
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193) >>> 0;
  return hash.toString(16).padStart(8, '0');
}
