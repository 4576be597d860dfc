import { placeAt, parseSource, type Source, stretchOf } from '@glenmark/core/model';
import { isMap, isScalar, isSeq, stringify } from 'yaml';
import { describe, expect, it } from 'vitest';
import { sample, samplesIn } from '../helpers.js';
import { writingPlace } from '../../src/language/writing-place.js';

const ALL = [...samplesIn(''), ...samplesIn('mechanics/')];

/** The paths of all keys and scalars of a document. */
function pathsIn(source: Source): { path: (string | number)[]; isKey: boolean }[] {
  const walk = (
    node: unknown,
    path: (string | number)[],
  ): { path: (string | number)[]; isKey: boolean }[] => {
    if (isMap(node))
      return node.items.flatMap(({ key, value }) => {
        const inner = [...path, String((key as { value: unknown }).value)];
        return [{ path: inner, isKey: true }, ...walk(value, inner)];
      });
    if (isSeq(node)) return node.items.flatMap((item, i) => walk(item, [...path, i]));
    return isScalar(node) && node.value !== null ? [{ path, isKey: false }] : [];
  };
  return walk(source.document.contents, []);
}

const withDashes = (path: readonly (string | number)[]): string[] =>
  path.map((step) => (typeof step === 'number' ? '-' : step));

/** Whether a scalar begins where a value is looked for: behind its quote, and on the line of its key. */
function looked(text: string): void {
  const source = parseSource(text).source!;
  let places = 0;
  for (const { path, isKey } of pathsIn(source)) {
    const { start } = stretchOf(source, path, { key: isKey })!;
    const quote = /["']/.test(text.charAt(start)) ? 1 : 0;
    const place = writingPlace(text, start + quote);
    const wanted = withDashes(isKey ? path.slice(0, -1) : path);
    expect(place?.path, `${path.join('.')} at ${start}`).toEqual(wanted);
    expect(place!.start, path.join('.')).toBe(start + quote);
    if (isKey) expect(place!.mayBeKey, path.join('.')).toBe(true);
    // What the parser finds there is the same.
    expect(placeAt(source, start + quote)).toMatchObject({ path, isKey });
    places++;
  }
  expect(places).toBeGreaterThan(5);
}

describe('the place where somebody writes', () => {
  it.each(ALL)('is in %s what the parser says of each key and each value', (file) => looked(sample(file)));

  it.each(ALL)('is so in %s written without brackets, and as JSON', (file) => {
    const value: unknown = parseSource(sample(file)).source!.document.toJS();
    looked(stringify(value, { lineWidth: 0 }));
    looked(stringify(value, { lineWidth: 0, indentSeq: false }));
    looked(JSON.stringify(value, null, 2));
  });

  it('is none in a comment', () => {
    expect(writingPlace('a: 1 # b: ', 9)).toBeUndefined();
    expect(writingPlace('# a', 3)).toBeUndefined();
    expect(writingPlace('a: { b: 1 } # {', 15)).toBeUndefined();
  });

  it('is told of lines that YAML cannot read yet', () => {
    const at = (text: string) => writingPlace(text, text.length);
    expect(at('lanes:\n  - name: legs\n    crossings:\n      - { from: Trot, to: ')).toMatchObject({
      path: ['lanes', '-', 'crossings', '-', 'to'],
      mayBeKey: false,
    });
    expect(at('lanes:\n  - name: legs\n    crossings:\n      - { from: [Trot, ')?.path.slice(-2)).toEqual([
      'from',
      '-',
    ]);
    expect(at('body:\n  stances:\n    low: { sh')).toMatchObject({
      path: ['body', 'stances', 'low'],
      mayBeKey: true,
    });
    expect(at('dials:\n  a: 1 m\n  b')).toMatchObject({ path: ['dials'], mayBeKey: true });
    expect(at('lanes:\n  - states:\n      A:\n        enter: ["vy := ho')).toMatchObject({
      path: ['lanes', '-', 'states', 'A', 'enter', '-'],
    });
  });
});
