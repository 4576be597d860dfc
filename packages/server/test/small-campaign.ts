import { spawnSync } from 'node:child_process';
import { expect } from 'vitest';
import { root } from './test-server.js';

/** A little of one of the campaigns of `npm run campaign`; fails unless every figure that must be zero is. */
export function smallCampaign(name: string): void {
  const { status, stdout, stderr } = spawnSync(process.execPath, ['scripts/campaign.mjs', '--small', name], {
    cwd: root,
    encoding: 'utf8',
  });
  expect([stdout, stderr]).toEqual([expect.stringMatching(new RegExp(`^${name}: .* ok\n$`)), '']);
  expect(status).toBe(0);
}
