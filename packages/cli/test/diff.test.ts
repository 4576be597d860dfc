import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { glenmark, root } from './glenmark.js';

const folder = mkdtempSync(join(tmpdir(), 'glenmark-diff-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const courier = readFileSync(join(root, 'examples/courier.yaml'), 'utf8');
const later = (name: string, from: string | RegExp, to: string): string => {
  const path = join(folder, name);
  const text = courier.replace(from, to);
  expect(text).not.toBe(courier);
  writeFileSync(path, text);
  return path;
};
const OLD = 'examples/courier.yaml';
const TAPES = ['--course', 'examples/mill-yard.yaml', '--tape', 'examples/yard-crossing.yaml'];

describe('diff', () => {
  it('of a moveset with itself tells of nothing and exits 0', () => {
    const { status, out } = glenmark('diff', OLD, OLD, ...TAPES);
    expect(status).toBe(0);
    expect(out).toContain('what changed\n  nothing');
    expect(out).toContain('same        “Yard crossing” on Mill yard');
  });

  it('tells a renamed state in one line, and that the tape runs as before, but for what it expects by the old name', () => {
    const renamed = later('renamed.yaml', /\bGust\b/g, 'Squall');
    const { status, out } = glenmark('diff', OLD, renamed);
    expect(status).toBe(0);
    expect(out).toContain('what changed\n  state Gust in legs is now called Squall\n');
    expect(out).toContain('none was given with --tape');
  });

  it('tells from which tick on a tape runs otherwise, and what it meets no more, and exits 1', () => {
    const heavier = later('heavier.yaml', /^gravity: .*$/m, 'gravity: 400 m/s2');
    const { status, out } = glenmark('diff', OLD, heavier, ...TAPES);
    expect(status).toBe(1);
    expect(out).toMatch(/^ {2}gravity: \S+ m\/s2 → 400 m\/s2$/m);
    expect(out).toMatch(/OTHER +“Yard crossing” on Mill yard, from tick \d+ on, in \w+/);
    expect(out).toMatch(/met no more: /);
  });

  it('prints the same as JSON', () => {
    const heavier = later('heavier.yaml', /^gravity: .*$/m, 'gravity: 400 m/s2');
    const { out } = glenmark('diff', OLD, heavier, ...TAPES, '--format', 'json');
    const told = JSON.parse(out) as { changes: unknown[]; tapes: unknown[]; findings: object };
    expect(told.changes).toMatchObject([
      { kind: 'moveset', what: 'changed', fields: [{ field: 'gravity', after: '400 m/s2' }] },
    ]);
    expect(told.tapes).toMatchObject([{ tape: 'Yard crossing', outcome: 'other' }]);
    expect(told.findings).toHaveProperty('kept');
  });

  it('tells of a tape that can be played no more, at its line', () => {
    const without = later('without.yaml', /\bgust\b/g, 'blast');
    const { status, out } = glenmark('diff', OLD, without, ...TAPES);
    expect(status).toBe(1);
    expect(out).toMatch(/UNPLAYABLE {2}“Yard crossing”/);
    expect(out).toMatch(/now: Yard crossing:\d+:\d+: .*gust/);
  });

  it('exits 2 with the place of what cannot be read, in either file', () => {
    const broken = later('broken.yaml', 'kind: moveset', 'kind: moveset\nnonsense: 1');
    for (const files of [
      [OLD, broken],
      [broken, OLD],
    ])
      expect(glenmark('diff', ...(files as [string, string]))).toMatchObject({
        status: 2,
        err: expect.stringMatching(/broken\.yaml:\d+:\d+: .*nonsense/) as string,
      });
  });
});
