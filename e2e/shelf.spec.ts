import { example, expect, importFiles, test } from './app.js';

test('files are imported; bad ones are told at their place and change nothing', async ({ app }) => {
  await app.getByRole('link', { name: 'Courier', exact: true }).waitFor();
  const items = app.getByRole('region', { name: 'Movesets' }).getByRole('listitem');
  // The three questions are counted for each, as in its own bar.
  await expect(items.filter({ hasText: 'Courier draft' })).toContainText(
    /4\s*can’t get in\s*5\s*can’t get out\s*6\s*can’t agree/,
  );
  const before = await items.count();
  const file = (name: string, text: string) => ({
    name,
    mimeType: 'application/yaml',
    buffer: Buffer.from(text),
  });
  const courier = example('courier.yaml').replace('name: Courier', 'name: Ferry hand');
  await importFiles(app, [
    file('unknown-key.yaml', courier.replace('gravity:', 'gravty:')),
    file('wrong-unit.yaml', courier.replace('34 m/s2', '34 m/s')),
    file('missing-state.yaml', courier.replace('to: Slide', 'to: Slied')),
    file('cyclic.yaml', courier.replace('0.8 * hopSpeed', '0.8 * secondHop')),
    file('broken.yaml', 'glenmark: 1\nname: ['),
    file('noise.yaml', 'x'.repeat(20_000_000)),
  ]);
  const alerts = app.getByRole('alert');
  await expect(alerts).toHaveCount(6);
  await expect(alerts.filter({ hasText: 'unknown-key.yaml' })).toContainText(
    "7:1: unknown key 'gravty', did you mean 'gravity'?",
  );
  await expect(alerts.filter({ hasText: 'wrong-unit.yaml' })).toContainText(
    '7:10: found a speed, expected an acceleration',
  );
  await expect(alerts.filter({ hasText: 'missing-state.yaml' })).toContainText("did you mean 'Slide'?");
  await expect(alerts.filter({ hasText: 'cyclic.yaml' })).toContainText("'secondHop' depends on itself");
  await expect(alerts.filter({ hasText: 'broken.yaml' })).toContainText('2:');
  await expect(alerts.filter({ hasText: 'noise.yaml' })).toContainText('found 20000000');
  await expect(items).toHaveCount(before);

  await importFiles(app, [file('ferry-hand.yaml', courier)]);
  await expect(app.getByRole('link', { name: 'Ferry hand' })).toBeVisible();
  await expect(alerts).toHaveCount(0);

  // Deleted, and brought back.
  await app.getByRole('button', { name: 'More for Ferry hand' }).click();
  await app.getByRole('menuitem', { name: 'Delete' }).click();
  await expect(app.getByRole('link', { name: 'Ferry hand' })).toHaveCount(0);
  await app.getByRole('button', { name: 'Undo' }).click();
  await expect(app.getByRole('link', { name: 'Ferry hand' })).toBeVisible();

  // A sample that is gone comes back; what is there stays.
  await app.getByRole('button', { name: 'More for Winch swing' }).click();
  await app.getByRole('menuitem', { name: 'Delete' }).click();
  await expect(app.getByRole('link', { name: 'Winch swing' })).toHaveCount(0);
  await app.getByRole('button', { name: 'Restore samples' }).click();
  await expect(app.getByText(/Restored: Winch swing\./)).toBeVisible();
  await expect(app.getByRole('link', { name: 'Winch swing' })).toBeVisible();

  // Exported as it was imported.
  await app.getByRole('button', { name: 'More for Ferry hand' }).click();
  const [download] = await Promise.all([
    app.waitForEvent('download'),
    app.getByRole('menuitem', { name: 'Export as a file' }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('ferry-hand.yaml');
  const stream = await download.createReadStream();
  let text = '';
  for await (const chunk of stream) text += String(chunk);
  expect(text).toBe(courier);
});

test('an address that leads nowhere says so', async ({ app }) => {
  await app.goto('/moveset/not-there/model');
  await expect(app.getByRole('alert')).toContainText("There is no moveset 'not-there'.");
  await app.goto('/no/such/page');
  await expect(app.getByRole('heading')).toContainText('There is nothing at this address.');
});
