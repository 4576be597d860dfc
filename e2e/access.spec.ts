import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Page } from '@playwright/test';
import type { AxeResults } from 'axe-core';
import { expect, test } from './app.js';

const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

const button = (name: string) => (app: Page) =>
  app.getByRole('button', { name, exact: true }).first().click();
const tab = (name: string) => (app: Page) => app.getByRole('tab', { name, exact: true }).click();
const key = (name: string) => (app: Page) => app.keyboard.press(name);

/** Every view, and what can be opened in it: dialogs, menus, lists, and the sides. */
const VIEWS: { path: string; opened?: Record<string, (app: Page) => Promise<unknown>> }[] = [
  {
    path: '/',
    opened: {
      'the menu of a document': (app) =>
        app.getByRole('button', { name: 'More for Courier', exact: true }).click(),
      'the sheet of keys': key('?'),
      'the finder': key('Control+k'),
      'the first walk': button('Take the walk'),
    },
  },
  {
    path: '/moveset/courier/model?from=Trot&to=Slide',
    opened: {
      'the dialog of a new state': button('Add a state'),
      'the kits': button('Add a kit'),
      'the export': button('Export'),
      'the menu of a state': button('More for this state'),
      'a list of stances': (app) => app.getByRole('combobox', { name: 'stance', exact: true }).click(),
      'the completion of a guard': (app) =>
        app.getByRole('combobox', { name: 'Guard' }).pressSequentially(' and gro'),
    },
  },
  {
    path: '/moveset/courier/run?tape=culvert-slide&tick=60',
    opened: {
      'the dialog of a new tape': button('New tape'),
      'the menu of files': button('Files'),
      'the rows of the score': button('rows'),
      'the numbers of a bar': async (app) => {
        await app.getByRole('button', { name: /^tuck \d+ to \d+$/ }).focus();
        await app.keyboard.press('Enter');
      },
      'the expectations': tab('expect'),
      'the comparison': tab('compare'),
      driving: button('Drive on from here'),
    },
  },
  {
    path: '/moveset/courier-draft/findings',
    opened: {
      'a finding': (app) =>
        app
          .getByRole('button', { name: /can never|never/ })
          .first()
          .click(),
    },
  },
  {
    path: '/moveset/marram/tune',
    opened: { 'settings to keep': tab('Settings'), 'a sweep': tab('Sweep') },
  },
  { path: '/moveset/courier/reach' },
  { path: '/moveset/courier/history' },
  { path: '/moveset/courier/expectations' },
  { path: '/moveset/courier-draft/report' },
  { path: '/moveset/courier/model?as=map' },
  {
    path: '/moveset/courier/model?beside=values',
    opened: { 'the dialog of a new dial': button('Add a dial') },
  },
  { path: '/moveset/courier/model?beside=text' },
  { path: '/course/mill-yard' },
  { path: '/moveset/courier-draft/model?from=Fall&to=Glide' },
];

/** All that axe has to say of a page, or what some of its rules say. */
async function breaches(app: Page, rules?: readonly string[]): Promise<string[]> {
  // Through the debugger, as the page's own policy forbids inline scripts.
  const session = await app.context().newCDPSession(app);
  await session.send('Runtime.evaluate', { expression: axe });
  const { result } = await session.send('Runtime.evaluate', {
    expression: `axe.run(${JSON.stringify(rules === undefined ? {} : { runOnly: rules })}).then((r) => JSON.stringify(r))`,
    awaitPromise: true,
    returnByValue: true,
  });
  await session.detach();
  const { violations } = JSON.parse(result.value as string) as AxeResults;
  return violations.map(
    ({ id, nodes }) =>
      `${id}: ${nodes
        .map((n) => n.target.join(' '))
        .slice(0, 3)
        .join(', ')}`,
  );
}

test.use({ actionTimeout: 10_000 });

const inTheme = (app: Page, theme: 'day' | 'night'): Promise<unknown> =>
  app.evaluate((t) => (document.documentElement.dataset['theme'] = t), theme);

test('no view, dialog or menu has a breach of accessibility by day or night, and no page scrolls', async ({
  app,
}) => {
  test.setTimeout(900_000);
  await app.addInitScript(() => localStorage.setItem('glenmark.theme', 'day'));
  for (const { path, opened } of VIEWS) {
    for (const [what, open] of [['', undefined] as const, ...Object.entries(opened ?? {})]) {
      await test.step(`${path} ${what}`, async () => {
        await app.goto(path);
        await app.waitForLoadState('networkidle');
        await expect(app.getByRole('heading').first()).toBeVisible();
        await open?.(app);
        if (open !== undefined) await app.waitForTimeout(400);
        expect.soft(await breaches(app), `${path} ${what}`).toEqual([]);
        expect(
          await app.evaluate(() => [
            document.documentElement.scrollHeight <= innerHeight,
            document.documentElement.scrollWidth <= innerWidth,
          ]),
        ).toEqual([true, true]);
        // Only colours differ by night. What fades from one to the other is let end.
        await inTheme(app, 'night');
        await app.waitForTimeout(300);
        expect.soft(await breaches(app, ['color-contrast']), `${path} ${what} by night`).toEqual([]);
      });
    }
  }
});

/** What 200 % of zoom leaves of a window of 1280 by 800. */
const ZOOMED = { width: 640, height: 400 };

test('at twice the size nothing is out of reach to the side, and a crossing can be written', async ({
  app,
}) => {
  await app.setViewportSize(ZOOMED);
  for (const { path } of VIEWS) {
    await app.goto(path);
    await app.waitForLoadState('networkidle');
    const beyond = await app
      .getByRole('button')
      .evaluateAll(
        (buttons, width) =>
          buttons
            .filter(
              (b) =>
                b.getBoundingClientRect().left >= width && b.closest('table, svg, gm-score, nav') === null,
            )
            .map((b) => b.textContent?.trim() ?? ''),
        ZOOMED.width,
      );
    expect(beyond, path).toEqual([]);
  }
  await app.goto('/moveset/signal-kite/model');
  await app.getByRole('gridcell', { name: /^Climb to Moored/ }).click();
  await app.keyboard.type('grounded');
  await app.keyboard.press('Enter');
  await expect(app.getByRole('gridcell', { name: 'Climb to Moored: ground' })).toBeVisible();
  await app.getByRole('button', { name: 'Undo' }).click();
  await expect(app.getByRole('gridcell', { name: 'Climb to Moored: no crossing' })).toBeVisible();
});
