import { spawnSync } from 'node:child_process';
import { describe, expect, it } from 'vitest';

const root = new URL('../../../', import.meta.url).pathname;

describe('the proof of worth, its small part', () => {
  it('misses no broken mutant without a word, and calls nothing sound proved or witnessed', () => {
    const { status, stdout, stderr } = spawnSync(process.execPath, ['scripts/proof.mjs', '--small'], {
      cwd: root,
      encoding: 'utf8',
    });
    expect(stderr).toBe('');
    expect(stdout).toContain('false alarms, proved or witnessed: 0');
    expect(stdout).toContain('missed: 0');
    const [mutants, , , , found] = [...(/^all\s+(.*)$/m.exec(stdout)?.[1] ?? '').matchAll(/\d+/g)].map(
      Number,
    );
    expect(mutants).toBeGreaterThanOrEqual(15);
    expect(found).toBeGreaterThanOrEqual(4);
    expect(status).toBe(0);
  }, 240_000);
});
