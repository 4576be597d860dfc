import { spawnSync } from 'node:child_process';
import { describe, expect, it } from 'vitest';
import { root } from './test-server.js';

/** The campaigns of `npm run campaign`, each a little. */
describe('what may go wrong, done on purpose', () => {
  it.each(['fuzz', 'floods', 'kill', 'power', 'damage', 'owners'])(
    '%s: nothing is lost, nothing crashes',
    (name) => {
      const { status, stdout, stderr } = spawnSync(
        process.execPath,
        ['scripts/campaign.mjs', '--small', name],
        {
          cwd: root,
          encoding: 'utf8',
        },
      );
      expect([stdout, stderr]).toEqual([expect.stringMatching(new RegExp(`^${name}: .* ok\n$`)), '']);
      expect(status).toBe(0);
    },
    600_000,
  );
});
