import { choose, expect, test } from './app.js';

/** What an edit did to the findings, told against the revision before it, and what a repair changes before it is made. */
test('a repair is seen before it is made, and its finding is told as gone since the revision before', async ({
  app,
}) => {
  await app.getByRole('link', { name: 'Courier draft', exact: true }).click();
  await app.getByRole('tab', { name: 'Findings', exact: true }).click();
  await app.getByRole('button', { name: /Gust can never be left/ }).click();
  const preview = app.getByLabel(/^What it changes: /).first();
  await expect(preview).toContainText('Gust');
  const removal = preview.locator('xpath=preceding-sibling::button');
  await removal.click();
  await expect(app.getByRole('button', { name: /Gust can never be left/ })).toHaveCount(0);
  await expect(app.getByText(/r 2 · saved/)).toBeVisible();
  await choose(app.getByLabel('Findings since'), /^revision 1/);
  await expect(app.getByText(/^\s*0 new, 1 gone, \d+ kept\.\s*$/)).toBeVisible();
  await expect(app.getByRole('paragraph').filter({ hasText: /gone\s*Gust can never be left/ })).toBeVisible();
  await app.getByRole('button', { name: 'Undo' }).click();
  await expect(app.getByText(/^\s*0 new, 0 gone, \d+ kept\.\s*$/)).toBeVisible();
});
