import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { choose, expect, test } from './app.js';

const root = new URL('../', import.meta.url).pathname;

/** From an empty moveset to a character, with keyboard and mouse alone, run in the yard, and accepted by the command line. */
test('a character is built from nothing: trot, double hop, crouch, dash, wall slide and kick', async ({
  app,
}) => {
  test.setTimeout(180_000);
  await app.getByRole('button', { name: 'New moveset' }).click();
  const grid = app.getByRole('grid');
  await expect(grid).toBeVisible();

  // Walk is there; it is called Trot here.
  await app.getByRole('button', { name: 'Rename' }).first().click();
  await app.getByRole('textbox', { name: 'New name' }).fill('Trot');
  await app.keyboard.press('Enter');
  await expect(app.getByRole('heading', { name: 'Trot' })).toBeVisible();

  const take = async (kit: string): Promise<void> => {
    await app.getByRole('button', { name: 'Add a kit' }).click();
    await app.getByRole('option', { name: kit }).click();
    await app.getByRole('button', { name: 'Add kit' }).click();
    await expect(app.getByText(`“${kit}” added.`)).toBeVisible();
  };
  await take('Double hop');
  await expect(grid.getByRole('rowheader', { name: 'Aloft' })).toBeVisible();
  await take('Wall slide and kick');
  await expect(grid.getByRole('rowheader', { name: 'Kick' })).toBeVisible();

  // A dash by hand: its control, its cooldown, its state, its crossings.
  await app.getByRole('tab', { name: 'values' }).click();
  await app.getByRole('button', { name: 'Add a control' }).click();
  await app.getByRole('menuitem', { name: 'button' }).click();
  await app.getByRole('textbox', { name: 'Name' }).fill('dash');
  await app.keyboard.press('Enter');
  await app.getByRole('button', { name: 'Bind a key to dash' }).click();
  await app.keyboard.press('ShiftLeft');
  await expect(app.getByRole('button', { name: 'Unbind Shift left from dash' })).toBeVisible();
  await app.getByRole('button', { name: 'Add a cooldown' }).click();
  await app.getByRole('textbox', { name: 'Name' }).fill('bursts');
  await app.keyboard.press('Enter');
  await expect(app.getByText('bursts', { exact: true })).toBeVisible();
  await app.getByRole('button', { name: 'Add a state' }).click();
  await app.getByRole('textbox', { name: 'Name' }).fill('Dash');
  await app.keyboard.press('Enter');
  await app.getByRole('tab', { name: 'sheet' }).click();
  await expect(app.getByRole('heading', { name: 'Dash' })).toBeVisible();
  await app.getByRole('textbox', { name: 'on entry' }).fill('spend bursts');
  await app.keyboard.press('Enter');
  await app.getByRole('button', { name: 'Add a field' }).click();
  await app.getByRole('menuitem', { name: 'hold vx' }).click();
  await app.getByRole('textbox', { name: 'hold vx' }).fill('facing * 14 m/s');
  await app.keyboard.press('Enter');
  const write = async (cell: string, guard: string): Promise<void> => {
    await grid.getByRole('gridcell', { name: `${cell}: no crossing` }).click();
    await app.keyboard.type(guard);
    await app.keyboard.press('Enter');
    await expect(grid.getByRole('gridcell', { name: new RegExp(`^${cell}: (?!no crossing)`) })).toBeVisible();
  };
  await write('Trot to Dash', 'pressed(dash) and ready(bursts)');
  await app.getByRole('button', { name: 'Higher rank' }).click();
  // Both pressed at once, hop and dash would tie: it is told at once, and one more rank is the end of it.
  await expect(app.getByRole('link', { name: '1 can’t agree' })).toBeVisible();
  await app.getByRole('button', { name: 'Higher rank' }).click();
  await expect(app.getByRole('link', { name: '0 can’t agree' })).toBeVisible();
  await write('Dash to Trot', 'elapsed >= 0.2 s');

  // A crouch under a ceiling: its stance, its key, its state.
  await app.getByRole('tab', { name: 'values' }).click();
  await app.getByRole('button', { name: 'Add a stance' }).click();
  await app.getByRole('textbox', { name: 'Name' }).fill('low');
  await app.keyboard.press('Enter');
  await app.getByRole('button', { name: 'Add a control' }).click();
  await app.getByRole('menuitem', { name: 'button' }).click();
  await app.getByRole('textbox', { name: 'Name' }).fill('duck');
  await app.keyboard.press('Enter');
  await app.getByRole('button', { name: 'Bind a key to duck' }).click();
  await app.keyboard.press('KeyC');
  await app.getByRole('button', { name: 'Add a state' }).click();
  await app.getByRole('textbox', { name: 'Name' }).fill('Crouch');
  await app.keyboard.press('Enter');
  await app.getByRole('tab', { name: 'sheet' }).click();
  await choose(app.getByRole('combobox', { name: /^stance/ }), 'low');
  await write('Trot to Crouch', 'held(duck) and grounded');
  await write('Crouch to Trot', 'not held(duck)');

  for (const question of ['get in', 'get out', 'agree'])
    await expect(app.getByRole('link', { name: `0 can’t ${question}` })).toBeVisible();

  // Run in the yard, driven with real keys.
  await app.getByRole('tab', { name: 'Run', exact: true }).click();
  await app.getByRole('button', { name: 'New tape' }).click();
  await app.getByRole('textbox', { name: 'Name' }).fill('First steps');
  await choose(app.getByLabel('Course'), 'Mill yard');
  await app.keyboard.press('Enter');
  await app
    .getByRole('textbox', { name: 'Name' })
    .press('Enter')
    .catch(() => undefined);
  await app.getByRole('button', { name: 'Drive', exact: true }).click();
  await expect(app.getByRole('list', { name: 'Keys' })).toBeVisible();
  await app.keyboard.down('KeyD');
  await app.waitForTimeout(500);
  await app.keyboard.press('Space', { delay: 120 });
  await app.waitForTimeout(600);
  await app.keyboard.up('KeyD');
  await app.keyboard.press('Escape');
  await expect(app.getByRole('img', { name: 'states of legs' })).toContainText('Aloft');

  // Exported, and checked by the command line.
  await app.getByRole('link', { name: 'Glenmark, to the shelf' }).click();
  await app.getByRole('button', { name: 'More for New moveset' }).first().click();
  const download = app.waitForEvent('download');
  await app.getByRole('menuitem', { name: 'Export as a file' }).click();
  const file = join(mkdtempSync(join(tmpdir(), 'glenmark-')), 'built.yaml');
  await (await download).saveAs(file);
  expect(readFileSync(file, 'utf8')).toContain('Crouch');
  const checked = spawnSync(process.execPath, [join(root, 'packages/cli/dist/main.js'), 'check', file], {
    encoding: 'utf8',
  });
  expect(checked.stdout).toContain('New moveset: nothing found');
  expect(checked.status).toBe(0);
});
