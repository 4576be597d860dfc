import { readFile } from 'node:fs/promises';
import { choose, expect, test } from './app.js';

/** The score as a work surface: spans, marks, zoom, bars by their numbers, files, and a tape made for other controls. */
test('a tape is cut, repeated, marked, read near and far, set by numbers, and taken out and in as a file', async ({
  app,
}) => {
  await app.getByRole('link', { name: 'Marram', exact: true }).click();
  await app.getByRole('tab', { name: 'Run', exact: true }).click();
  await choose(app.getByLabel('Tape', { exact: true }), 'Shaft climb');
  const playhead = app.getByRole('slider', { name: 'Playhead' });
  const length = app.getByRole('textbox', { name: 'Length in ticks' });
  await expect(length).toHaveValue('220');

  // A span is chosen with Shift and the mouse, repeated, and undone.
  const row = app.getByRole('img', { name: 'states of legs' });
  const box = (await row.boundingBox())!;
  await app.keyboard.down('Shift');
  await app.mouse.move(box.x + 100, box.y + 8);
  await app.mouse.down();
  await app.mouse.move(box.x + 200, box.y + 8, { steps: 5 });
  await app.mouse.up();
  await app.keyboard.up('Shift');
  const chosen = app.getByRole('toolbar', { name: 'Chosen ticks' });
  await expect(chosen).toContainText(/\d+ – \d+/);
  const ticks = Number(/^(\d+) ticks/.exec((await chosen.getByText(/ticks,/).textContent())!)![1]);
  await chosen.getByRole('button', { name: 'Repeat' }).click();
  await expect(length).toHaveValue(String(220 + ticks));
  await app.getByRole('button', { name: 'Undo' }).click();
  await expect(length).toHaveValue('220');
  await chosen.getByRole('button', { name: 'Take out' }).click();
  await expect(length).toHaveValue(String(220 - ticks));
  await app.getByRole('button', { name: 'Undo' }).click();
  await expect(chosen).toHaveCount(0);

  // Chosen by keys, seen near, and played round: the playhead stays within it.
  await playhead.focus();
  for (let i = 0; i < 4; i++) await app.keyboard.press('Shift+ArrowRight');
  await app.keyboard.press('[');
  await app.keyboard.press('Shift+ArrowRight');
  await app.keyboard.press(']');
  await expect(chosen).toContainText('40 – 50');
  await chosen.getByRole('button', { name: 'Fill the width' }).click();
  await expect(app.getByRole('button', { name: 'Show all ticks' })).toBeEnabled();
  await chosen.getByRole('button', { name: 'Play round' }).click();
  for (let i = 0; i < 5; i++) {
    await app.waitForTimeout(120);
    const tick = Number(await playhead.getAttribute('aria-valuenow'));
    expect(tick).toBeGreaterThanOrEqual(40);
    expect(tick).toBeLessThanOrEqual(51);
  }
  await app.getByRole('button', { name: 'Pause' }).click();
  await chosen.getByRole('button', { name: 'Clear selection' }).click();
  await app.getByRole('button', { name: 'Show all ticks' }).click();
  await expect(app.getByRole('button', { name: 'Show all ticks' })).toBeDisabled();

  // A mark, where it is set, and where it leads.
  await playhead.focus();
  await app.keyboard.press('Home');
  await app.keyboard.press('Shift+ArrowRight');
  await app.keyboard.press('m');
  await app.getByRole('textbox', { name: 'Name of the mark' }).fill('leap');
  await app.keyboard.press('Enter');
  const flag = app.getByRole('button', { name: 'Mark leap at tick 10' });
  await expect(flag).toBeVisible();
  await playhead.focus();
  await app.keyboard.press('End');
  await flag.click();
  await app.getByRole('menuitem', { name: 'Go to tick 10' }).click();
  await expect(playhead).toHaveAttribute('aria-valuenow', '10');

  // A bar by its numbers; what cannot be is told.
  const hop = app.getByRole('button', { name: /^hop \d+ to \d+$/ }).first();
  await hop.focus();
  await app.keyboard.press('Enter');
  const dialog = app.getByRole('dialog');
  await dialog.getByRole('textbox', { name: 'for ticks' }).fill('0');
  await expect(dialog).toContainText('It lasts a whole number of ticks, at least 1.');
  await dialog.getByRole('textbox', { name: 'from tick' }).fill('7');
  await dialog.getByRole('textbox', { name: 'for ticks' }).fill('3');
  await app.keyboard.press('Enter');
  await expect(app.getByRole('button', { name: 'hop 7 to 9', exact: true })).toBeVisible();

  // Out as CSV, and in again: one undo step, the same run. A file that is wrong is told where.
  await app.getByRole('button', { name: 'Files' }).click();
  const download = app.waitForEvent('download');
  await app.getByRole('menuitem', { name: 'Inputs as CSV' }).click();
  const text = await readFile((await (await download).path())!, 'utf8');
  expect(text.split('\r\n')[0]).toMatch(/^tick,move,/);
  expect(text.split('\r\n')[8]).toMatch(/^7,/);
  const file = app.getByLabel('CSV file of inputs');
  await file.setInputFiles({
    name: 'more.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(text.replace('move', 'mvoe')),
  });
  await expect(app.getByText(/more\.csv, line 1, field 2: .*did you mean 'move'/)).toBeVisible();
  const [head, ...lines] = text.trimEnd().split('\r\n');
  const shorter = [head, ...lines.slice(0, 100)].join('\n');
  await file.setInputFiles({ name: 'less.csv', mimeType: 'text/csv', buffer: Buffer.from(shorter) });
  await expect(length).toHaveValue('100');
  await expect(app.getByRole('button', { name: 'hop 7 to 9', exact: true })).toBeVisible();
  await app.getByRole('button', { name: 'Undo' }).click();
  await expect(length).toHaveValue('220');

  // Rows and curves as one likes them; a curve in the notation.
  await app.getByRole('button', { name: 'rows', exact: true }).click();
  await app.getByRole('checkbox', { name: 'probes' }).check();
  await app.getByRole('textbox', { name: 'Another curve' }).fill('vy / hopSped');
  await expect(app.getByText(/did you mean 'hopSpeed'/)).toBeVisible();
  await app.getByRole('textbox', { name: 'Another curve' }).fill('vy / hopSpeed');
  await app.keyboard.press('Enter');
  await app.keyboard.press('Escape');
  await expect(app.getByRole('img', { name: 'Curves of speed, height, vy / hopSpeed' })).toBeVisible();
  await expect(app.getByRole('img', { name: 'brow', exact: true })).toBeVisible();

  // Beside itself with another dial: where they part, and by how much.
  await app.getByRole('tab', { name: 'compare', exact: true }).click();
  const compare = app.getByRole('complementary', { name: 'Compare' });
  await choose(compare.getByLabel('Compare with'), 'other dials');
  await expect(compare).toContainText('The runs are bit-for-bit identical.');
  await choose(compare.getByLabel('Dial 1'), 'hopHeight');
  await compare.getByRole('textbox', { name: 'hopHeight is' }).fill('2.4 s');
  await app.keyboard.press('Tab');
  await expect(compare.getByText(/found .*s.*expected|length|a time/).first()).toBeVisible();
  await compare.getByRole('textbox', { name: 'hopHeight is' }).fill('2.4 m');
  await app.keyboard.press('Tab');
  await expect(compare.getByRole('button', { name: /^tick \d+$/ })).toBeVisible();
  await expect(app.getByRole('img', { name: 'states of legs, other' })).toBeVisible();
  // Beside itself at another tick rate, drawn over it.
  await choose(compare.getByLabel('Compare with'), 'one other tick rate, drawn over');
  await choose(compare.getByLabel('Ticks per second'), '30');
  await expect(compare.getByRole('columnheader', { name: 'at 30' })).toBeVisible();
  await expect(compare.getByRole('button', { name: /^tick \d+$/ })).toBeVisible();
});

test('a tape for controls that are gone is kept, and played as one says', async ({ app }) => {
  await app.getByRole('link', { name: 'Courier', exact: true }).click();
  await app.getByRole('tab', { name: 'Run', exact: true }).click();
  await choose(app.getByLabel('Tape', { exact: true }), 'Winch swing (made for another moveset)');
  const gone = app.getByRole('paragraph').filter({ hasText: 'The tape holds grip' });
  await expect(gone).toBeVisible();
  // It is asked once, and not told as a fault beside that.
  await expect(app.getByRole('alert').filter({ hasText: 'has no control' })).toHaveCount(0);
  await choose(app.getByLabel('Play grip as'), 'gust');
  await gone.getByRole('button', { name: 'Apply' }).click();
  await expect(gone).toHaveCount(0);
  // It was a step like any other.
  await app.getByRole('button', { name: 'Undo' }).click();
  await expect(gone).toBeVisible();
  await gone.getByRole('button', { name: 'Leave it out' }).click();
  await expect(gone).toHaveCount(0);
  await app.getByRole('button', { name: 'Undo' }).click();
});
