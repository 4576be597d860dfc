import { expect, holdSaves, test } from './app.js';

test('a state and its crossings are made and removed, by keyboard and by mouse', async ({ app }) => {
  await app.getByRole('button', { name: 'New moveset' }).click();
  const grid = app.getByRole('grid');
  const cells = grid.getByRole('gridcell', { name: / to / });
  await expect(cells).toHaveCount(1);

  await app.getByRole('button', { name: 'Add a state' }).click();
  await app.getByRole('textbox', { name: 'Name' }).fill('Walk');
  await expect(app.getByText('There is a Walk already.')).toBeVisible();
  await app.getByRole('textbox', { name: 'Name' }).fill('Rest');
  await app.keyboard.press('Enter');
  await expect(cells).toHaveCount(4);
  await expect(app.getByRole('link', { name: '1 can’t get in' })).toBeVisible();

  // From Walk to Rest: arrows to the cell, type the guard, Enter.
  await grid.getByRole('gridcell', { name: 'Walk to Walk: no crossing' }).click();
  await app.keyboard.press('ArrowRight');
  await app.keyboard.type('axis(move) = 0');
  await app.keyboard.press('Enter');
  await expect(grid.getByRole('gridcell', { name: 'Walk to Rest: axis(move) = 0' })).toBeFocused();
  await expect(app.getByRole('link', { name: '0 can’t get in' })).toBeVisible();
  await expect(app.getByRole('link', { name: '1 can’t get out' })).toBeVisible();
  await app.keyboard.press('ArrowDown');
  await app.keyboard.press('ArrowLeft');
  await app.keyboard.type('axis(move) != 0');
  await app.keyboard.press('Enter');
  await expect(app.getByRole('link', { name: '0 can’t get out' })).toBeVisible();

  // Effects and rank of the chosen crossing.
  await app.getByRole('textbox', { name: 'Effects' }).fill('vx := 2 m/s; face right');
  await app.keyboard.press('Enter');
  await app.getByRole('button', { name: 'Higher rank' }).click();
  await expect(grid.getByRole('gridcell', { name: 'Rest to Walk: axis(move) ≠ 0, rank 1' })).toBeVisible();

  // The sheet: stance, a motion field, an effect on entry with an error first.
  await grid.getByRole('rowheader', { name: 'Rest' }).getByRole('button').click();
  await app.getByRole('button', { name: 'Add a field' }).click();
  await app.getByRole('menuitem', { name: 'hold vx' }).click();
  await app.getByRole('textbox', { name: 'hold vx' }).fill('1 m');
  await expect(app.getByText('found a length, expected a speed. Not applied yet.')).toBeVisible();
  await app.getByRole('textbox', { name: 'hold vx' }).fill('1 m/s');
  await app.keyboard.press('Enter');
  await app.getByRole('textbox', { name: 'on entry' }).fill('face left');
  await app.keyboard.press('Tab');
  await expect(app.getByText(/r \d+ · saved/)).toBeVisible();
  await app.reload();
  await expect(app.getByRole('textbox', { name: 'hold vx' })).toHaveValue('1 m/s');
  await expect(app.getByRole('textbox', { name: 'on entry' })).toHaveValue('face left');

  // Renamed, with all its uses.
  await app.getByRole('button', { name: 'Rename' }).click();
  await app.getByRole('textbox', { name: 'New name' }).fill('Pause');
  await app.keyboard.press('Enter');
  await expect(grid.getByRole('gridcell', { name: /^Walk to Pause: axis/ })).toBeVisible();
  await expect(app.getByRole('heading', { name: 'Pause' })).toBeVisible();
  await app.getByRole('button', { name: 'Undo' }).click();
  await expect(grid.getByRole('gridcell', { name: /^Walk to Rest: axis/ })).toBeVisible();

  // Removing: a crossing by Delete, then the state; undo brings all of it back.
  await grid.getByRole('gridcell', { name: /^Walk to Rest/ }).click();
  await app.keyboard.press('Delete');
  await expect(app.getByRole('link', { name: '1 can’t get in' })).toBeVisible();
  await grid.getByRole('rowheader', { name: 'Rest' }).getByRole('button').click();
  await app.getByRole('button', { name: 'More for this state' }).click();
  await app.getByRole('menuitem', { name: 'Remove state' }).click();
  await expect(cells).toHaveCount(1);
  await app.keyboard.press('Control+z');
  await app.keyboard.press('Control+z');
  await expect(grid.getByRole('gridcell', { name: 'Walk to Rest: axis(move) = 0' })).toBeVisible();
});

test('two windows that edit one moveset at once: the later one sees both and chooses', async ({
  app,
  context,
}) => {
  await app.getByRole('link', { name: 'Signal kite' }).click();
  await expect(app.getByRole('grid')).toBeVisible();
  const other = await context.newPage();
  await other.goto(app.url());
  const change = async (page: typeof app, speed: string): Promise<void> => {
    await page.getByRole('gridcell', { name: /^Moored to Climb/ }).click();
    await page.getByRole('combobox', { name: 'Guard' }).fill(`pressed(line) and vy < ${speed} m/s`);
    await page.keyboard.press('Enter');
  };
  const saves = await holdSaves(other);
  await change(other, '2');
  await change(app, '1');
  await expect(app.getByText(/r 2 · saved/)).toBeVisible();
  saves.letGo();
  await expect(other.getByRole('alert')).toContainText('Another window saved revision 2 first.');
  await other.getByRole('button', { name: 'Keep mine, on top of theirs' }).click();
  await expect(other.getByText(/r 3 · saved/)).toBeVisible();
  await app.reload();
  await app.getByRole('gridcell', { name: /^Moored to Climb/ }).click();
  await expect(app.getByRole('combobox', { name: 'Guard' })).toHaveValue('pressed(line) and vy < 2 m/s');
});

test('losing the server is shown, and what was edited meanwhile is saved when it is back', async ({
  app,
  context,
}) => {
  await app.getByRole('link', { name: 'Courier', exact: true }).click();
  await expect(app.getByRole('grid')).toBeVisible();
  await context.route('**/api/**', (route) => route.abort());
  await app.getByRole('gridcell', { name: /^Gust to Fall/ }).click();
  await app.getByRole('combobox', { name: 'Guard' }).fill('elapsed >= 0.2 s');
  await app.keyboard.press('Enter');
  await expect(app.getByText('not saved, retrying')).toBeVisible();
  await context.unroute('**/api/**');
  await expect(app.getByText(/r 2 · saved/)).toBeVisible();
});

test('two windows that edit one tape at once: the later one sees both and chooses', async ({
  app,
  context,
}) => {
  await app.goto('/moveset/signal-kite/run?tape=kite-up');
  const length = (page: typeof app) => page.getByRole('textbox', { name: 'Length in ticks' });
  await expect(length(app)).toBeVisible();
  const other = await context.newPage();
  await other.goto(app.url());
  const before = Number(await length(other).inputValue());
  const change = async (page: typeof app, ticks: number): Promise<void> => {
    await length(page).fill(String(ticks));
    await page.keyboard.press('Tab');
  };
  const saves = await holdSaves(other);
  await change(other, before + 9);
  await change(app, before + 5);
  await expect(app.getByText(/r 2 · saved/)).toBeVisible();
  saves.letGo();
  await expect(other.getByRole('alert')).toContainText('Another window saved revision 2 of the tape first.');
  await other.getByRole('button', { name: /^Use theirs/ }).click();
  await expect(length(other)).toHaveValue(String(before + 5));
  await other.getByRole('button', { name: 'Undo' }).click();
  await expect(length(other)).toHaveValue(String(before + 9));
  await expect(other.getByText(/r 3 · saved/)).toBeVisible();
});

test('the side is made wider by mouse and by keys, and stays so', async ({ app }) => {
  await app.getByRole('link', { name: 'Courier', exact: true }).click();
  const rule = app.getByRole('separator', { name: 'Width of the side' });
  const side = app.getByRole('complementary', { name: 'sheet' });
  const width = async (): Promise<number> => Math.round((await side.boundingBox())!.width);
  const usual = await width();
  await rule.focus();
  await app.keyboard.press('ArrowLeft');
  await expect.poll(width).toBe(usual + 16);
  const at = (await rule.boundingBox())!;
  await app.mouse.move(at.x + 4, at.y + 300);
  await app.mouse.down();
  await app.mouse.move(at.x - 96, at.y + 300, { steps: 4 });
  await app.mouse.up();
  await expect.poll(width).toBe(usual + 116);
  await expect(rule).toHaveAttribute('aria-valuenow', String(usual + 116));
  await app.reload();
  await expect.poll(width).toBe(usual + 116);
  // The rest is never crowded out, and double-click takes the usual width.
  await app.mouse.move(at.x - 96, at.y + 300);
  await app.mouse.down();
  await app.mouse.move(10, at.y + 300, { steps: 4 });
  await app.mouse.up();
  await expect.poll(width).toBe(1280 - 420);
  await rule.dblclick();
  await expect.poll(width).toBe(usual);
});
