import { execFileSync } from 'node:child_process';
import { postgresPrograms } from '../../../scripts/postgres.mjs';
import { describe, expect, it } from 'vitest';

const hasPostgres = postgresPrograms() !== undefined;
const script = new URL('../../../scripts/bench.mjs', import.meta.url).pathname;

describe('the benchmark', () => {
  it('runs each of its parts, and prints a figure for each line of it', () => {
    const out = execFileSync(process.execPath, [script, '--brief', '--json'], { encoding: 'utf8' });
    const lines = out
      .trim()
      .split('\n')
      .filter((line) => line.startsWith('{'))
      .map((line) => JSON.parse(line) as { name: string; value: number; unit: string });
    expect(new Set(lines.map((line) => line.unit.replace(/\d+/, 'N')))).toEqual(
      new Set([
        ...['ms', 'µs', 'ns', 's', 'ticks', 'steps', 'ticks/s', 'new/s', 'runs/s'],
        ...['times', 'times as long', 'times as fast', 'MiB', 'bytes', 'of N'],
        ...(hasPostgres ? ['of this machine', 'a million', 'MiB a million'] : []),
      ]),
    );
    for (const { name, value } of lines) expect(value, name).toBeGreaterThan(0);
    for (const part of [
      'load',
      'complete a guard',
      'rename a state',
      'ticks of Marram',
      'kinematic',
      'bare sweep',
      '20,000 solids',
      'two threads',
      'edit at tick',
      'setting',
      'guard',
      'scouting',
      'memory',
      ...(hasPostgres ? ['2 workers against one', 'write-ahead log'] : []),
    ])
      expect(
        lines.some(({ name }) => name.includes(part)),
        part,
      ).toBe(true);
  });
});
