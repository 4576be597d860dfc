import { example, expect, importFiles, renamed, test } from './app.js';

/** The courier under a name that no other story uses. */
const runner = (name: string) => renamed('courier.yaml', /^name: Courier$/m, `name: ${name}`);

test('what somebody saves in one window is seen in the others, and can be undone there', async ({
  app,
  context,
}) => {
  await importFiles(app, [runner('Towpath runner')]);
  const link = app.getByRole('link', { name: 'Towpath runner' });
  await link.click();
  await expect(app.getByRole('grid')).toBeVisible();
  const other = await context.newPage();
  await other.goto(app.url());
  const theirs = other.getByRole('gridcell', { name: /^Trot to Slide/ });
  await expect(theirs).toBeVisible();

  // An effect that is written here stands there a moment later, and can be taken back there.
  await app.getByRole('gridcell', { name: /^Trot to Slide/ }).click();
  const effects = (page: typeof app) => page.getByRole('textbox', { name: 'Effects' });
  const before = await effects(app).inputValue();
  await effects(app).fill('face left');
  await effects(app).press('Enter');
  await expect(other.getByText(/^\s*r 2 · saved\s*$/)).toBeVisible();
  await theirs.click();
  await expect(effects(other)).toHaveValue('face left');
  await other.getByRole('button', { name: 'Undo' }).click();
  await expect(app.getByText(/^\s*r 3 · saved\s*$/)).toBeVisible();
  await expect(effects(app)).toHaveValue(before);

  await other.goto('/');
  // The shelf of a third one shows what is added and removed elsewhere.
  const third = await context.newPage();
  await third.goto('/');
  await expect(third.getByRole('link', { name: 'Towpath runner' })).toBeVisible();
  await app.goto('/');
  await app.getByRole('button', { name: 'More for Towpath runner' }).click();
  await app.getByRole('menuitem', { name: 'Delete' }).click();
  await expect(third.getByRole('link', { name: 'Towpath runner' })).toHaveCount(0);
  // The first window listened for all of them: when it goes, another one does.
  await app.goto('about:blank');
  await importFiles(other, [runner('Towpath runner')]);
  await expect(third.getByRole('link', { name: 'Towpath runner' })).toBeVisible();
});

test('everything is exported with its revisions, and comes back after it was deleted', async ({ app }) => {
  await importFiles(app, [runner('Sluice runner')]);
  await app.getByRole('link', { name: 'Sluice runner' }).waitFor();
  const [download] = await Promise.all([
    app.waitForEvent('download'),
    app.getByRole('link', { name: 'Export all' }).click(),
  ]);
  expect(download.suggestedFilename()).toMatch(/^glenmark-[\d-]{10}\.zip$/);
  const parts: Buffer[] = [];
  for await (const part of await download.createReadStream()) parts.push(part as Buffer);
  await app.getByRole('button', { name: 'More for Sluice runner' }).click();
  await app.getByRole('menuitem', { name: 'Delete' }).click();
  await expect(app.getByRole('link', { name: 'Sluice runner' })).toHaveCount(0);
  const zip = (buffer: Buffer) => ({ name: 'all.zip', mimeType: 'application/zip', buffer });
  await importFiles(app, [zip(Buffer.from(example('courier.yaml')))]);
  await expect(app.getByRole('alert')).toContainText('this is no zip file');
  await importFiles(app, [zip(Buffer.concat(parts))]);
  const told = app.getByRole('status').filter({ hasText: 'all.zip' });
  await expect(told).toContainText('added: Sluice runner');
  await expect(told).toContainText(/here already: .*Courier/);
  await expect(app.getByRole('link', { name: 'Sluice runner' })).toBeVisible();
});
