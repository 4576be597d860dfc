import { readFileSync } from 'node:fs';
import { choose, expect, importFiles, renamed, test } from './app.js';

/** Out into the game and back: code from Model, a log of the game in Run. */

test('the courier is taken out as code, looked at, and saved with its readme', async ({ app }) => {
  await app.getByRole('link', { name: 'Courier', exact: true }).click();
  // The shelf has a button of that name, too.
  await expect(app.getByRole('grid')).toBeVisible();
  await app.getByRole('button', { name: 'Export', exact: true }).click();
  const dialog = app.getByRole('dialog', { name: 'Export' });
  const preview = dialog.getByLabel('Preview');
  await expect(preview).toContainText('namespace courier {');
  // Every guard stands in it as it is in the moveset.
  await expect(preview).toContainText('to Slide when pressed(tuck) and grounded and speed > 3 m/s');
  await choose(dialog.getByRole('combobox', { name: 'Export as' }), 'C#');
  await expect(preview).toContainText('public sealed class Situation');
  const saving = app.waitForEvent('download');
  await dialog.getByRole('button', { name: 'Save the file' }).click();
  const saved = await saving;
  expect(saved.suggestedFilename()).toBe('Courier.cs');
  expect(readFileSync(await saved.path(), 'utf8')).toContain('public static void Tick(');
  const explaining = app.waitForEvent('download');
  await dialog.getByRole('button', { name: 'Save its readme' }).click();
  expect((await explaining).suggestedFilename()).toBe('Courier.cs.md');
  await choose(dialog.getByRole('combobox', { name: 'Export as' }), 'CSV, the grid');
  await expect(preview).toContainText('lane,from,Trot');
  await expect(dialog.getByRole('button', { name: 'Save its readme' })).toHaveCount(0);
  await app.keyboard.press('Escape');
  await expect(dialog).toHaveCount(0);
});

test('a log of the game agrees with the model, parts where it was changed, and becomes a tape', async ({
  app,
}) => {
  const name = /name: Courier/;
  await importFiles(app, [
    renamed('courier.yaml', name, 'name: Courier logged'),
    renamed('culvert-slide.yaml', /name: (.*)\nmoveset: .*/, 'name: Logged slide\nmoveset: courier-logged'),
  ]);
  await app.getByRole('link', { name: 'Courier logged' }).click();
  await app.getByRole('tab', { name: 'Run', exact: true }).click();
  await expect(app.getByRole('combobox', { name: 'Tape' })).toHaveText('Logged slide');

  // The model's own run stands in for the game's log.
  await app.getByRole('button', { name: 'Files' }).click();
  const saving = app.waitForEvent('download');
  await app.getByRole('menuitem', { name: 'Run as CSV, every tick' }).click();
  const log = readFileSync(await (await saving).path(), 'utf8');
  const take = async (file: string, text: string): Promise<void> => {
    const chooser = app.waitForEvent('filechooser');
    await app.getByRole('button', { name: 'Choose a log' }).click();
    await (await chooser).setFiles([{ name: file, mimeType: 'text/csv', buffer: Buffer.from(text) }]);
  };
  await app.getByRole('tab', { name: 'compare' }).click();
  await choose(app.getByRole('combobox', { name: 'Compare with' }), 'a log of the game');
  await take('same.csv', log);
  await expect(app.getByText('No divergence in 180 ticks.')).toBeVisible();

  const rows = log
    .trim()
    .split('\r\n')
    .map((row) => row.split(','));
  const [x, tuck] = [rows[0]!.indexOf('x'), rows[0]!.indexOf('tuck')];
  rows[63]![x] = '3';
  const text = (): string => rows.map((row) => row.join(',')).join('\n');
  await take('off.csv', text());
  const parting = app.getByRole('button', { name: 'tick 62' });
  await parting.click();
  await expect(app.getByRole('slider', { name: 'Playhead' })).toHaveAttribute('aria-valuenow', '62');
  await expect(app.getByRole('row', { name: /^x .*allowed 0.01 m 62 3 / })).toBeVisible();

  // A log of other inputs is played for itself, and can be kept as a tape.
  rows[2]![tuck] = '1';
  await take('other.csv', text());
  await expect(app.getByText('The tape that is shown has other inputs than the log.')).toBeVisible();
  await app.getByRole('button', { name: 'Make a tape of the log' }).click();
  await expect(app.getByRole('combobox', { name: 'Tape' })).toHaveText('other');
  await expect(parting).toBeVisible();

  await take('wrong.csv', 'tick,x\n0,far');
  await expect(app.getByRole('alert')).toContainText("wrong.csv:2:2: found 'far', expected a number");
});

test('a chart of the W3C becomes a moveset, and tells what did not come over', async ({ app }) => {
  const chart = `<scxml xmlns="http://www.w3.org/2005/07/scxml" version="1.0" name="Sluice gate" initial="shut">
<state id="shut"><transition event="crank" target="open"/></state>
<state id="open"><transition cond="level > 3" target="shut"/></state>
</scxml>`;
  const file = (name: string, text: string) => ({
    name,
    mimeType: 'application/xml',
    buffer: Buffer.from(text),
  });
  await importFiles(app, [
    file('gate.scxml', chart),
    file('bomb.scxml', `<!DOCTYPE s [<!ENTITY a "ha">]>${chart}`),
  ]);
  const lost = app.getByRole('status').filter({ hasText: 'gate.scxml' });
  await expect(lost).toContainText(
    "3: the condition 'level > 3' is none of ours: it became a note, and the crossing is closed",
  );
  await expect(app.getByRole('alert').filter({ hasText: 'bomb.scxml' })).toContainText(
    'found a document type, expected a chart without one',
  );
  await app.getByRole('link', { name: 'Sluice gate' }).click();
  const grid = app.getByRole('grid');
  await expect(grid.getByRole('rowheader', { name: 'shut' })).toBeVisible();
  await expect(grid).toContainText('crank');
  // Taken out and read again it is what it was.
  await app.getByRole('button', { name: 'Export', exact: true }).click();
  const dialog = app.getByRole('dialog', { name: 'Export' });
  await choose(dialog.getByRole('combobox', { name: 'Export as' }), 'SCXML, a chart');
  await expect(dialog.getByLabel('Preview')).toContainText('<transition target="open" cond="pressed(crank)"');
});
