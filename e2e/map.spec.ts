import { readFileSync } from 'node:fs';
import { expect, test } from './app.js';

/** A crossing is made and found again on the map without a mouse. */
test('a crossing is begun, ended, written and found again on the map by keys', async ({ app }) => {
  await app.goto('/moveset/signal-kite/model?as=map');
  const map = app.getByRole('group', { name: 'Map of the lane' });
  /** A state by its name, which may be followed by what else it is: the start, or the state at the tick shown. */
  const state = (name: string) => map.getByRole('button', { name: new RegExp(`^${name}(,|$)`) });
  await state('Climb').focus();
  await app.keyboard.press('c');
  await expect(app.getByRole('status').filter({ hasText: 'A new crossing from Climb' })).toBeVisible();
  await app.keyboard.press('Escape');
  await expect(app.getByRole('status').filter({ hasText: 'A new crossing from Climb' })).toHaveCount(0);

  await app.keyboard.press('c');
  await state('Moored').focus();
  await app.keyboard.press('Enter');
  const guard = app.getByRole('combobox', { name: 'Guard' });
  await guard.focus();
  await app.keyboard.type('grounded');
  await app.keyboard.press('Enter');
  await expect(app.getByText('Can hold.')).toBeVisible();
  const crossing = map.getByRole('button', { name: /^Climb to Moored/ });
  await expect(crossing).toHaveCount(1);

  // Found again from another one, and taken back.
  await map.getByRole('button', { name: /^Drift to Moored/ }).press('Enter');
  await expect(guard).toHaveValue('grounded');
  await expect(app.getByText('Drift → Moored', { exact: true }).first()).toBeVisible();
  await app.keyboard.press('Control+z');
  await expect(crossing).toHaveCount(0);
});

test('the map is saved as a drawing that looks as it does on the page', async ({ app }) => {
  await app.goto('/moveset/courier/model?as=map');
  const map = app.getByRole('group', { name: 'Map of the lane' });
  await expect(map.getByRole('button', { name: 'Slide', exact: true })).toBeVisible();
  const stroke = await map
    .getByRole('button', { name: 'Slide', exact: true })
    .locator('rect')
    .evaluate((rect) => getComputedStyle(rect).stroke);
  const saving = app.waitForEvent('download');
  await app.getByRole('button', { name: 'Save as SVG' }).click();
  const saved = await saving;
  expect(saved.suggestedFilename()).toBe('courier-legs.svg');
  const text = readFileSync(await saved.path(), 'utf8');
  // As a page of its own it has the states, in their colours.
  await app.goto(`data:image/svg+xml;base64,${Buffer.from(text).toString('base64')}`);
  const drawn = app.locator('svg g').filter({ hasText: 'Slide' }).locator('rect');
  await expect(drawn.first()).toHaveCSS('stroke', stroke);
  await expect(app.locator('svg')).toContainText('Trot');
  // No word is cut at its edge.
  const isWhole = await app.locator('svg').evaluate((svg) => {
    const frame = svg.getBoundingClientRect();
    return Array.from(svg.querySelectorAll('text')).every((text) => {
      const box = text.getBoundingClientRect();
      return (
        box.left >= frame.left &&
        box.right <= frame.right &&
        box.top >= frame.top &&
        box.bottom <= frame.bottom
      );
    });
  });
  expect(isWhole).toBe(true);
});
