import { choose, expect, importFiles, renamed, test } from './app.js';

/** "Can she get up there without the parasol?": a search, a place, its tape; a goal that is proved out of reach. */
test('where Marram gets to is drawn, with and without the parasol, and the way to a place opens in Run', async ({
  app,
}) => {
  await importFiles(app, [
    renamed('marram.yaml', /^name: Marram$/m, 'name: Roaming Marram'),
    renamed('shaft-climb.yaml', /^name: .*\nmoveset: .*$/m, 'name: Roaming climb\nmoveset: roaming-marram'),
  ]);
  await app.getByRole('link', { name: 'Roaming Marram', exact: true }).click();
  await app.getByRole('tab', { name: 'Run', exact: true }).click();
  await app.getByRole('link', { name: 'Reach', exact: true }).click();
  await expect(app.getByRole('combobox', { name: 'Course' })).toContainText('Tide mill');
  await choose(app.getByRole('combobox', { name: 'And without' }), 'parasol');
  await app.getByRole('button', { name: 'Find where it gets to' }).click();
  await expect(app.getByText(/of them only with parasol/)).toBeVisible({ timeout: 60_000 });
  await expect(app.getByRole('button', { name: 'Go on' })).toBeVisible({ timeout: 60_000 });
  await expect(app.getByRole('heading', { name: 'pits' })).toBeVisible();
  await choose(app.getByRole('combobox', { name: 'Colours tell' }), /how soon/);

  // A place by keys: beside the first spawn.
  const drawing = app.getByRole('application', { name: /^Course/ });
  await drawing.focus();
  await drawing.press('Shift+ArrowRight');
  await expect(
    app.getByText(/the soonest way known takes \d+\.\d\d s, in \w+\. Without parasol/),
  ).toBeVisible();
  await app.getByRole('button', { name: 'Open the way there in Run' }).click();
  await expect(app.getByRole('slider', { name: 'Playhead' })).toBeVisible();
  await expect(app.getByRole('combobox', { name: 'Tape', exact: true })).toContainText('Way to x');
});

test('a course leads to where a moveset gets to on it', async ({ app }) => {
  await app.goto('/course/lower-quay');
  await app.getByRole('link', { name: /gets to on this course$/ }).click();
  await expect(app.getByRole('combobox', { name: 'Course' })).toContainText('Lower quay');
  await expect(app.getByRole('button', { name: 'Find where it gets to' })).toBeEnabled();
});

test('a goal drawn on a course is gone for, and one that is too high is proved so', async ({ app }) => {
  await importFiles(app, [
    renamed('courier.yaml', /^name: Courier$/m, 'name: Climbing courier'),
    renamed(
      'yard-crossing.yaml',
      /^name: .*\nmoveset: .*$/m,
      'name: Climbing crossing\nmoveset: climbing-courier',
    ),
  ]);
  await app.getByRole('link', { name: 'Climbing courier', exact: true }).click();
  await app.getByRole('tab', { name: 'Run', exact: true }).click();
  await app.getByRole('link', { name: 'Reach', exact: true }).click();
  const drawing = app.getByRole('application', { name: /^Course/ });
  const box = (await drawing.boundingBox())!;
  await app.mouse.move(box.x + 260, box.y + 40);
  await app.mouse.down();
  await app.mouse.move(box.x + 300, box.y + 80, { steps: 4 });
  await app.mouse.up();
  await expect(app.getByText(/^Proved: the body rises no more than/)).toBeVisible({ timeout: 60_000 });

  // By numbers: on the ground, some metres from the gate.
  const end = (name: string) => app.getByRole('textbox', { name, exact: true });
  for (const [name, value] of [
    ['Goal from x', '4'],
    ['Goal to x', '5'],
    ['Goal from y', '0'],
    ['Goal to y', '0.5'],
  ] as const) {
    await end(name).fill(value);
    await end(name).press('Enter');
  }
  await app.getByRole('button', { name: 'Find where it gets to' }).click();
  await expect(app.getByText('Reached.', { exact: true })).toBeVisible({ timeout: 60_000 });
  await app.getByRole('button', { name: 'Open the way nearest to it in Run' }).click();
  await expect(app.getByRole('combobox', { name: 'Tape', exact: true })).toContainText('Way to the goal');
});
