import type { StoredDocument } from '@glenmark/contract';
import type { Page } from '@playwright/test';
import { expect, test } from './app.js';

/** While `on`, no save of this page reaches the server. */
async function outage(page: Page): Promise<{ on: boolean }> {
  const state = { on: true };
  await page.route('**/api/**', (route) =>
    state.on && route.request().method() === 'PUT'
      ? route.fulfill({
          status: 503,
          contentType: 'application/problem+json',
          body: '{"type":"about:blank","title":"Away","status":503,"detail":"The server is away."}',
        })
      : route.continue(),
  );
  return state;
}

const open = async (page: Page, name: string): Promise<void> => {
  await page.getByRole('link', { name: 'Glenmark, to the shelf' }).click();
  await page.getByRole('link', { name, exact: true }).click();
  await expect(page.getByRole('grid')).toBeVisible();
};

/** Gives the first crossing of the open moveset an effect. */
async function addEffect(page: Page, effect: string): Promise<void> {
  await page
    .getByRole('gridcell', { name: /^\w+ to \w+: (?!no crossing)/ })
    .first()
    .click();
  const effects = page.getByRole('textbox', { name: 'Effects' });
  await effects.fill(effect);
  await effects.press('Enter');
}

const stored = async (page: Page, id: string): Promise<StoredDocument> =>
  (await (await page.request.get(`/api/movesets/${id}`)).json()) as StoredDocument;

test('an edit that waits for the server is saved to its own document, whatever is opened meanwhile', async ({
  app,
}) => {
  const kite = await stored(app, 'signal-kite');
  const keeper = await stored(app, 'lock-keeper');
  const server = await outage(app);
  await open(app, 'Lock keeper');
  await addEffect(app, 'face left');
  await expect(app.getByText('not saved, retrying')).toBeVisible();

  await app.getByRole('link', { name: 'Glenmark, to the shelf' }).click();
  await expect(app.getByRole('status')).toContainText(/Lock keeper\s+not saved, retrying/);
  await open(app, 'Signal kite');
  const waiting = app.getByRole('status').getByRole('link', { name: '1 not saved' });
  await expect(waiting).toBeVisible();
  await expect(app.getByText(`r ${kite.revision} · saved`)).toBeVisible();

  server.on = false;
  await expect(waiting).toHaveCount(0);
  const after = await stored(app, 'lock-keeper');
  expect(after.revision).toBe(keeper.revision + 1);
  expect(after.text).toContain('name: Lock keeper');
  expect(after.text).toContain('face left');
  expect(await stored(app, 'signal-kite')).toEqual(kite);
});

test('an edit outlives its page, and is restored in the next one', async ({ app, context }) => {
  await outage(app);
  await open(app, 'Lock keeper');
  await addEffect(app, 'face right');
  await expect(app.getByText('not saved, retrying')).toBeVisible();
  await app.close();

  const next = await context.newPage();
  await next.goto('/moveset/lock-keeper/model');
  await expect(next.getByText(/had not been saved\. They are restored here\./)).toBeVisible();
  await expect(next.getByText(/r \d+ · saved$/)).toBeVisible();
  expect((await stored(next, 'lock-keeper')).text).toContain('face right');
});

test('an edit of a page that is gone and another revision are both there to choose from', async ({
  app,
  context,
}) => {
  await outage(app);
  await open(app, 'Lock keeper');
  await addEffect(app, 'face left; face right');
  await expect(app.getByText('not saved, retrying')).toBeVisible();
  // Somebody else saves meanwhile.
  const theirs = await stored(app, 'lock-keeper');
  const saved = await app.request.put('/api/movesets/lock-keeper', {
    data: { text: theirs.text.replace(/^note: .*$/m, 'note: Saved by somebody else') },
    headers: { 'If-Match': `"${theirs.revision}-${theirs.hash.slice(0, 12)}"` },
  });
  expect(saved.status()).toBe(200);
  await app.close();

  const next = await context.newPage();
  await next.goto('/moveset/lock-keeper/model');
  await expect(next.getByRole('alert')).toContainText(`revision ${theirs.revision + 1}`);
  await next.getByRole('button', { name: 'Keep mine, on top of theirs' }).click();
  await expect(next.getByText(`r ${theirs.revision + 2} · saved`)).toBeVisible();
  expect((await stored(next, 'lock-keeper')).text).toContain('[face left, face right]');
});
