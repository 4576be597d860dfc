import { choose, expect, test } from './app.js';

/** "It doesn't work", answered: driven, scrubbed, read why, mended on the score, compared, expected. */
test('a run is driven with real keys, read, changed on the score, compared and expected', async ({ app }) => {
  await app.getByRole('link', { name: 'Marram', exact: true }).click();
  await app.getByRole('tab', { name: 'Run', exact: true }).click();
  await expect(app.getByRole('slider', { name: 'Playhead' })).toBeVisible();
  await app.getByRole('button', { name: 'New tape' }).click();
  await app.getByRole('textbox', { name: 'Name' }).fill('Over the crate');
  await choose(app.getByRole('combobox', { name: 'Course' }), 'Mill yard');
  await app.getByRole('button', { name: 'Create' }).click();
  await expect(app.getByRole('combobox', { name: 'Tape' })).toContainText('Over the crate');

  // Driven: right, and a hop.
  await app.getByRole('button', { name: 'Drive', exact: true }).click();
  await expect(app.getByRole('list', { name: 'Keys' })).toBeVisible();
  await app.keyboard.down('KeyD');
  await app.waitForTimeout(700);
  await app.keyboard.press('Space', { delay: 150 });
  await app.waitForTimeout(900);
  await app.keyboard.up('KeyD');
  await app.keyboard.press('Escape');
  const legs = app.getByRole('img', { name: 'states of legs' });
  await expect(legs).toContainText('Rise');

  // Scrubbed, and why: the slide was refused, for nobody pressed tuck.
  const playhead = app.getByRole('slider', { name: 'Playhead' });
  await playhead.focus();
  for (let i = 0; i < 3; i++) await app.keyboard.press('Shift+ArrowRight');
  await expect(playhead).toHaveAttribute('aria-valuenow', '30');
  const why = app.getByRole('complementary', { name: 'Why' });
  await expect(why).toContainText('Trot → Slide');
  await expect(why.getByRole('button', { name: /✕ pressed\(tuck\)/ }).first()).toBeVisible();

  // The bar of the hop is moved and removed: no Rise any more, and undo brings it back.
  const hop = app.getByRole('button', { name: /^hop \d+ to \d+$/ });
  await hop.first().focus();
  await app.keyboard.press('Delete');
  await expect(legs).not.toContainText('Rise');
  await app.getByRole('button', { name: 'Undo' }).click();
  await expect(legs).toContainText('Rise');
  // Another is drawn with the mouse.
  const row = app.getByRole('group', { name: 'gust input' });
  const box = (await row.boundingBox())!;
  await app.mouse.move(box.x + 160, box.y + 10);
  await app.mouse.down();
  await app.mouse.move(box.x + 190, box.y + 10, { steps: 4 });
  await app.mouse.up();
  await expect(app.getByRole('button', { name: /^gust \d+ to \d+$/ })).toBeVisible();
  await expect(legs).toContainText('Gust');

  // Expected: in Trot at the very beginning, by pointing; and something that fails, in words.
  await playhead.focus();
  await app.keyboard.press('Home');
  await app.getByRole('tab', { name: 'expect', exact: true }).click();
  await app.getByRole('button', { name: 'In Trot here', exact: true }).click();
  await expect(app.getByRole('button', { name: '1 of 1 expectations met' })).toBeVisible();
  await app.getByRole('textbox', { name: 'New expectation' }).fill('never in Rize');
  await expect(app.getByText(/no state .*Rize|unknown|'Rize'/).first()).toBeVisible();
  await app.getByRole('textbox', { name: 'New expectation' }).fill('never in Rise');
  await app.keyboard.press('Enter');
  await expect(app.getByRole('button', { name: '1 of 2 expectations met' })).toBeVisible();

  // Compared with other tick rates in one step, and with another tape.
  await app.getByRole('tab', { name: 'compare', exact: true }).click();
  const compare = app.getByRole('complementary', { name: 'Compare' });
  await expect(compare.getByRole('columnheader', { name: '144' })).toBeVisible();
  await expect(compare.getByRole('row', { name: /^apex/ })).toContainText(/\d\.\d\d/);
  await choose(compare.getByLabel('Compare with'), 'another way the engine steps');
  await expect(compare.getByRole('columnheader', { name: 'explicit' })).toBeVisible();
  await choose(compare.getByLabel('In a tick the body moves'), 'trapezoid: by the mean of both');
  await expect(compare.getByRole('columnheader', { name: 'trapezoid' })).toBeVisible();
  await choose(compare.getByLabel('Compare with'), 'Shaft climb');
  await expect(compare.getByRole('button', { name: /^tick \d+$/ })).toBeVisible();
});
