import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { AxeResults } from 'axe-core';
import { expect, test } from './app.js';

const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

const VIEWS = [
  '/',
  '/moveset/courier/model?from=Trot&to=Slide',
  '/moveset/courier/run?tape=culvert-slide&tick=60',
  '/moveset/courier-draft/findings',
  '/moveset/courier-draft/report',
  '/moveset/courier/model?as=map',
  '/moveset/courier/model?beside=values',
  '/moveset/courier/model?beside=text',
  '/moveset/courier/run',
  '/course/mill-yard',
  '/moveset/courier-draft/model?from=Fall&to=Glide',
];

for (const theme of ['day', 'night']) {
  test(`no view has a serious breach of accessibility by ${theme}, nor scrolls the page`, async ({ app }) => {
    await app.addInitScript((t) => localStorage.setItem('glenmark.theme', t), theme);
    for (const view of VIEWS) {
      await app.goto(view);
      await app.waitForLoadState('networkidle');
      await expect(app.getByRole('heading').first()).toBeVisible();
      // Through the debugger, as the page's own policy forbids inline scripts.
      const session = await app.context().newCDPSession(app);
      await session.send('Runtime.evaluate', { expression: axe });
      const { result } = await session.send('Runtime.evaluate', {
        expression: 'axe.run().then((r) => JSON.stringify(r))',
        awaitPromise: true,
        returnByValue: true,
      });
      const { violations } = JSON.parse(result.value as string) as AxeResults;
      const serious = violations.filter((v) => v.impact === 'serious' || v.impact === 'critical');
      expect(
        serious.map(
          (v) =>
            `${view}: ${v.id}: ${v.nodes
              .map((n) => n.target.join(' '))
              .slice(0, 3)
              .join(', ')}`,
        ),
      ).toEqual([]);
      expect(
        await app.evaluate(() => [
          document.documentElement.scrollHeight <= innerHeight,
          document.documentElement.scrollWidth <= innerWidth,
        ]),
      ).toEqual([true, true]);
    }
  });
}
