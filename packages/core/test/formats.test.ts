import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { readMoveset } from '@glenmark/core/machine';
import { FORMAT_VERSION, jsonSchema, KINDS, type Kind } from '@glenmark/core/model';
import { readTape } from '@glenmark/core/run';
import { readCourse } from '@glenmark/core/world';

const folder = new URL('./formats/', import.meta.url);
const kept = readdirSync(folder);
const read = { moveset: readMoveset, course: readCourse, tape: readTape };

describe('every version of the format that ever was', () => {
  it('has a kept file of each kind, and those files are never edited to make a reader pass', () => {
    for (let version = 1; version <= FORMAT_VERSION; version++) {
      for (const kind of KINDS) expect(kept).toContain(`${version}.${kind}.yaml`);
    }
  });

  it.each(kept)('%s is still read', (file) => {
    const kind = file.split('.')[1] as Kind;
    expect(read[kind](readFileSync(new URL(file, folder), 'utf8')).diagnostics).toEqual([]);
  });
});

describe('the format document', () => {
  const text = readFileSync(new URL('../../../docs/format.md', import.meta.url), 'utf8');

  /** Every key of every mapping in a JSON Schema. */
  const keysOf = (schema: unknown): string[] => {
    if (typeof schema !== 'object' || schema === null) return [];
    const own = Object.keys((schema as { properties?: object }).properties ?? {});
    return [...own, ...Object.values(schema).flatMap(keysOf)];
  };

  it.each(KINDS.map((k) => [k]))('names every key of a %s', (kind) => {
    const keys = [...new Set(keysOf(jsonSchema(kind as Kind)))];
    expect(keys.length).toBeGreaterThan(5);
    expect(keys.filter((key) => !new RegExp(`\\b${key}\\b`).test(text))).toEqual([]);
  });
});
