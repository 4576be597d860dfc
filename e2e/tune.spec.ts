import { choose, expect, importFiles, renamed, test } from './app.js';

const FULL_HOP = {
  name: 'full-hop.yaml',
  mimeType: 'application/yaml',
  buffer: Buffer.from(`glenmark: 1
kind: tape
name: Full hop
moveset: tuned-courier
course: mill-yard
spawn: gate
ticks: 90
inputs:
  hop: ["10 for 60"]
expect:
  - peak height >= 1.8 m
`),
};

/** "A bit higher, but not so floaty": said as goals, found, looked at, taken, kept, and undone in one step. */
test('an apex of 2.4 m after 0.36 s is found for the courier, tried, taken and kept', async ({ app }) => {
  await importFiles(app, [
    renamed('courier.yaml', /^name: Courier$/m, 'name: Tuned courier'),
    renamed('yard-crossing.yaml', /^name: .*\nmoveset: .*$/m, 'name: Tuned crossing\nmoveset: tuned-courier'),
    FULL_HOP,
  ]);
  await app.getByRole('link', { name: 'Tuned courier', exact: true }).click();
  await app.getByRole('tab', { name: 'Tune', exact: true }).click();
  await app.getByRole('option', { name: 'Full hop' }).click();

  // Goals by keyboard; the dials that matter to them may move without being asked for.
  await app.getByRole('textbox', { name: 'Value of goal 1' }).fill('2.4');
  await app.getByRole('button', { name: 'Add another goal' }).press('Enter');
  await app.getByRole('textbox', { name: 'Value of goal 2' }).fill('0.36');
  await expect(app.getByRole('checkbox', { name: 'gravity' })).toBeChecked();
  await expect(app.getByRole('checkbox', { name: 'hopHeight' })).toBeChecked();
  await expect(app.getByRole('checkbox', { name: 'slideSpeed' })).not.toBeChecked();
  await app.getByRole('textbox', { name: 'gravity to' }).fill('');
  await app.getByRole('textbox', { name: 'Value of goal 2' }).press('Enter');
  await expect(app.getByRole('alert')).toContainText('Say from where to where gravity may move');
  await app.getByRole('textbox', { name: 'gravity to' }).fill('60');
  await app.getByRole('button', { name: 'Find values' }).click();
  await expect(app.getByText('All goals are met, and all expectations kept.')).toBeVisible();
  await expect(app.getByText('apex 2.40 m')).toBeVisible();
  await app.getByRole('button', { name: 'Try these values' }).click();

  // What it was before stays beside what it is.
  const apex = app.getByRole('row', { name: /^apex/ });
  await expect(apex).toContainText('2.40');
  await expect(apex).toContainText('2.00');
  await expect(app.getByRole('textbox', { name: 'gravity on trial' })).not.toHaveValue('34');
  await expect(app.getByText(/r 1 · saved/)).toBeVisible();

  await app.getByRole('tab', { name: 'Settings', exact: true }).click();
  await app.getByRole('button', { name: 'Keep the values on trial' }).click();
  await app.getByRole('textbox', { name: 'name' }).fill('steep');
  await app.getByRole('button', { name: 'Keep', exact: true }).click();
  await app.getByRole('button', { name: 'Take steep' }).click();
  await expect(apex).toContainText('2.40');
  await expect(app.getByRole('textbox', { name: 'hopHeight on trial' })).not.toHaveValue('2.1');
  await expect(app.getByRole('button', { name: 'Take these values' })).toBeDisabled();
  await app.getByRole('button', { name: 'Undo' }).click();
  await expect(app.getByRole('textbox', { name: 'hopHeight on trial' })).toHaveValue('2.1');
  await expect(app.getByRole('textbox', { name: 'gravity on trial' })).toHaveValue('34');

  // A dial that breaks what a tape expects says so while it turns.
  await app.getByRole('slider', { name: 'Turn hopHeight' }).press('Home');
  await expect(app.getByText(/No longer as expected · Full hop: peak height >= 1.8 m/)).toBeVisible();
  await app.getByRole('button', { name: 'Turn all back' }).click();
  await expect(app.getByText(/No longer as expected/)).toHaveCount(0);
});

/** Two dials make a map; a place of it is found and taken without a mouse. */
test('where the culvert slide begins to fail is seen on a map, and a place of it is tried', async ({
  app,
}) => {
  await importFiles(app, [
    renamed('courier.yaml', /^name: Courier$/m, 'name: Swept courier'),
    renamed('culvert-slide.yaml', /^name: .*\nmoveset: .*$/m, 'name: Swept slide\nmoveset: swept-courier'),
  ]);
  await app.getByRole('link', { name: 'Swept courier', exact: true }).click();
  await app.getByRole('tab', { name: 'Tune', exact: true }).click();
  await expect(app.getByRole('row', { name: /^reach/ })).toBeVisible();
  await app.getByRole('tab', { name: 'Sweep', exact: true }).click();
  await choose(app.getByRole('combobox', { name: 'Outcome to sweep' }), 'reach');
  await choose(app.getByRole('combobox', { name: 'Dial to sweep', exact: true }), 'slideSpeed');
  await app.getByRole('textbox', { name: 'slideSpeed to' }).fill('3');
  await app.getByRole('button', { name: 'Sweep', exact: true }).click();
  await expect(app.getByRole('alert')).toContainText('expected the smaller value first');
  await app.getByRole('textbox', { name: 'slideSpeed to' }).fill('14');
  await app.getByRole('button', { name: 'Sweep', exact: true }).click();
  await expect(app.getByText(/^All is as expected at slideSpeed /)).toBeVisible({ timeout: 30_000 });

  await choose(app.getByRole('combobox', { name: 'Second dial to sweep' }), 'crawlSpeed');
  await app.getByRole('button', { name: 'Sweep', exact: true }).click();
  await expect(app.getByText(/^All is as expected in \d+ of 625 places/)).toBeVisible({ timeout: 60_000 });
  const map = app.getByRole('application', { name: /^Swept places/ });
  await map.focus();
  for (let i = 0; i < 12; i++) await map.press('ArrowRight');
  await expect(app.getByText(/not as expected: Swept slide: at 62 in Slide/)).toBeVisible();
  await map.press('Enter');
  await expect(app.getByText(/No longer as expected · Swept slide/).first()).toBeVisible();
  // The middle of the map, where all is well.
  await map.click();
  await expect(app.getByText(/No longer as expected/)).toHaveCount(0);
  await expect(app.getByRole('textbox', { name: 'slideSpeed on trial' })).not.toHaveValue('14');

  await app.getByRole('tab', { name: 'Sensitivity', exact: true }).click();
  await expect(app.getByRole('img', { name: 'Dials by how far they move the outcome' })).toBeVisible();
});
