import { expect, importFiles, renamed, test } from './app.js';

/** All tapes, all they expect, at all tick rates: what an edit breaks is seen at once, and one click from its tick. */
test('the wall of expectations follows an edit, and leads to the tick where one is missed', async ({
  app,
}) => {
  await importFiles(app, [
    renamed('courier.yaml', /^name: Courier$/m, 'name: Wall courier'),
    renamed('yard-crossing.yaml', /^name: .*\nmoveset: .*$/m, 'name: Wall crossing\nmoveset: wall-courier'),
  ]);
  await app.getByRole('link', { name: 'Wall courier', exact: true }).click();
  await app.getByRole('link', { name: /as expected$/ }).click();
  await expect(app.getByRole('heading', { name: /^Expectations/ })).toBeVisible();
  const hop = app.getByRole('row', { name: /peak height/ });
  await expect(hop.getByRole('cell', { name: '✓' })).toHaveCount(5);
  await expect(app.getByRole('columnheader', { name: '144' })).toBeVisible();

  await app.getByRole('tab', { name: 'Model', exact: true }).click();
  await app.getByRole('tab', { name: 'values', exact: true }).click();
  await app.getByRole('slider', { name: 'Turn hopHeight' }).press('Home');
  await app.getByRole('link', { name: /as expected$/ }).click();
  await hop.getByRole('link', { name: /^missed at 60, at tick \d+/ }).click();
  await expect(app.getByRole('slider', { name: 'Playhead' })).toBeVisible();
  await expect(app.getByRole('combobox', { name: 'Tape' })).toContainText('Wall crossing');
});
