import { choose, expect, importFiles, renamed, test } from './app.js';

/** "What did I break since then?": told in words, in runs, found by halving, and taken back. */
test('what an old revision did otherwise is told, since when a tape fails is found, and it is restored', async ({
  app,
}) => {
  await importFiles(app, [
    renamed('courier.yaml', /^name: Courier$/m, 'name: Old courier'),
    renamed('yard-crossing.yaml', /^name: .*\nmoveset: .*$/m, 'name: Old crossing\nmoveset: old-courier'),
  ]);
  await app.getByRole('link', { name: 'Old courier', exact: true }).click();
  await app.getByRole('tab', { name: 'History', exact: true }).click();
  await expect(app.getByText('There is one revision so far.')).toBeVisible();

  // Three edits, one of which breaks what the tape expects.
  await app.getByRole('tab', { name: 'Model', exact: true }).click();
  await app.getByRole('tab', { name: 'values', exact: true }).click();
  const turn = async (dial: string, key: string, revision: number): Promise<void> => {
    await app.getByRole('slider', { name: `Turn ${dial}` }).press(key);
    await expect(app.getByText(new RegExp(`r ${revision} · saved`))).toBeVisible();
  };
  await turn('slideSpeed', 'ArrowRight', 2);
  await turn('hopHeight', 'Home', 3);
  await turn('crawlSpeed', 'ArrowRight', 4);

  await app.getByRole('tab', { name: 'History', exact: true }).click();
  const since = app.getByRole('listbox', { name: 'Since' });
  await since.getByRole('option', { name: /^r 1/ }).click();
  await expect(app.getByRole('row', { name: /dial slideSpeed/ })).toContainText('9 m/s');
  await expect(app.getByRole('row', { name: /dial (hopHeight|crawlSpeed)/ })).toHaveCount(2);
  const tape = app.getByRole('row', { name: /^Old crossing/ });
  await expect(tape).toContainText('runs otherwise');
  await expect(tape).toContainText('met no more');

  // Both runs over each other.
  await tape.getByRole('button', { name: 'Draw both' }).click();
  await expect(app.getByRole('img', { name: 'Both runs on Mill yard' })).toBeVisible();

  // What is counted of each revision, and a label to find one by.
  await expect(since.getByRole('option', { name: /^r 2/ })).toContainText('6/6 met');
  await expect(since.getByRole('option', { name: /^r 3/ })).toContainText(/[0-5]\/6 met/);
  const label = app.getByRole('textbox', { name: 'Label of revision 1' });
  await label.fill('sent to testers');
  await label.press('Enter');
  await expect(since.getByRole('option', { name: /^r 1/ })).toContainText('sent to testers');

  await tape.getByRole('button', { name: 'Since when?' }).click();
  await expect(
    app.getByText('Since revision 3 “Old crossing” no longer meets all that it expects.'),
  ).toBeVisible();
  await expect(app.getByRole('row', { name: /^dial/ })).toHaveCount(1);
  await expect(app.getByRole('row', { name: /dial hopHeight/ })).toContainText('0.5 m');

  // To the tick, and back to where one was.
  await tape.getByRole('link', { name: /^tick \d+$/ }).click();
  await expect(app.getByRole('slider', { name: 'Playhead' })).toBeVisible();
  await app.goBack();
  await expect(app.getByRole('row', { name: /dial hopHeight/ })).toBeVisible();

  await app.getByRole('button', { name: 'Restore revision 2' }).click();
  await expect(app.getByText(/r 5 · saved/)).toBeVisible();
  await choose(app.getByLabel('What changed until'), 'now');
  await since.getByRole('option', { name: /^r 2/ }).click();
  await expect(app.getByText('Nothing but the layout of the text, or nothing at all.')).toBeVisible();
  await expect(app.getByRole('row', { name: /^Old crossing/ })).toContainText('runs as before');
  await app.getByRole('button', { name: 'Undo' }).click();
  await expect(app.getByRole('row', { name: /dial hopHeight/ })).toBeVisible();

  // One change alone is taken back, and the other stays.
  await app.getByRole('button', { name: 'Take back dial hopHeight' }).click();
  await expect(app.getByRole('row', { name: /dial hopHeight/ })).toHaveCount(0);
  await expect(app.getByRole('row', { name: /dial crawlSpeed/ })).toBeVisible();
  await expect(app.getByRole('row', { name: /^Old crossing/ })).toContainText('runs as before');
});
