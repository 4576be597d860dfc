import { choose, expect, test } from './app.js';

/** The practitioner's hour in a minute: from the shelf to a fault, its place, its repair. */

test('a sample is opened, its tape played and scrubbed, and why says what stopped the slide', async ({
  app,
}) => {
  await app.getByRole('link', { name: 'Courier', exact: true }).click();
  await expect(app.getByRole('grid')).toBeVisible();
  await app.getByRole('tab', { name: 'Run', exact: true }).click();
  await choose(app.getByLabel('Tape'), 'Culvert slide');
  await expect(app.getByRole('combobox', { name: 'Tape' })).toHaveText('Culvert slide');
  await expect(app.getByText('6 of 6 expectations met')).toBeVisible();
  const playhead = app.getByRole('slider', { name: 'Playhead' });
  await playhead.focus();
  for (let i = 0; i < 6; i++) await app.keyboard.press('Shift+ArrowRight');
  for (let i = 0; i < 2; i++) await app.keyboard.press('ArrowRight');
  await expect(playhead).toHaveAttribute('aria-valuenow', '62');
  const why = app.getByRole('complementary', { name: 'Why' });
  await expect(why.getByRole('heading', { name: 'Why, at tick 62' })).toBeVisible();
  await expect(why).toContainText('legs stays in Slide');
  await expect(why).toContainText('Open, but upright does not fit: 70 cm short.');
  await expect(app.getByText('upright needs 70 cm more')).toBeVisible();
  // A term leads to the tick at which it last changed.
  await why.getByRole('button', { name: '✓ done(slideTime) since' }).click();
  await expect(playhead).toHaveAttribute('aria-valuenow', '54');
  await expect(app).toHaveURL(/tape=culvert-slide.*tick=54/);
  // The playhead is dragged.
  const box = (await playhead.boundingBox())!;
  await app.mouse.move(box.x + 150, box.y + 12);
  await app.mouse.down();
  await app.mouse.move(box.x + 190, box.y + 12, { steps: 5 });
  await app.mouse.up();
  const dragged = Number(await playhead.getAttribute('aria-valuenow'));
  expect(dragged).toBeGreaterThan(30);
  expect(dragged).toBeLessThan(54);
  await app.reload();
  await expect(playhead).toHaveAttribute('aria-valuenow', String(dragged));
});

test('the draft shows its faults; one is mended by a guard, undone, and nothing is lost on reload', async ({
  app,
}) => {
  await app.getByRole('link', { name: 'Courier draft' }).click();
  await app.getByRole('tab', { name: 'Findings' }).click();
  const rows = app.getByRole('article');
  await expect(rows).toHaveCount(19);
  await expect(app.getByRole('region', { name: 'Can’t get in' })).toContainText(
    'Perch can never be entered: no crossing leads to it.',
  );
  await expect(app.getByRole('region', { name: 'Can’t get in' })).toContainText('Glide can never be entered');
  await expect(app.getByRole('region', { name: 'Can’t get out' })).toContainText('Gust can never be left');
  await expect(app.getByRole('region', { name: 'Can’t agree' })).toContainText(
    'In Trot, Slide and Crawl open on the same press of tuck',
  );

  // A mechanical repair is one step, and can be undone.
  await app.getByRole('button', { name: /Gust can never be left/ }).click();
  await app.getByRole('button', { name: 'Add a crossing from Gust to Trot after 0.5 s' }).click();
  await expect(app.getByRole('link', { name: '4 can’t get out' })).toBeVisible();
  await app.getByRole('button', { name: 'Undo' }).click();
  await expect(app.getByRole('link', { name: '5 can’t get out' })).toBeVisible();

  await app.getByRole('button', { name: /Glide can never be entered/ }).click();
  await app.getByRole('link', { name: 'Go there' }).click();
  const guard = app.getByRole('combobox', { name: 'Guard' });
  await expect(guard).toHaveValue('held(hop) and falling and grounded');
  await expect(app.getByText('Can never hold: falling and grounded exclude each other.')).toBeVisible();

  // A wrong guard stays where it is written, with what is wrong, and changes nothing.
  await guard.fill('held(hop) and fallin');
  await expect(app.getByText("unknown name 'fallin', did you mean 'falling'?")).toBeVisible();
  await guard.press('Enter');
  await expect(app.getByRole('button', { name: 'Undo' })).toBeDisabled();
  await guard.fill('held(hop) and falling');
  await expect(app.getByText('Can hold.')).toBeVisible();
  await guard.press('Enter');
  await expect(app.getByRole('link', { name: '3 can’t get in' })).toBeVisible();
  await expect(app.getByText(/r \d+ · saved/)).toBeVisible();

  await app.getByRole('button', { name: 'Undo' }).click();
  await expect(app.getByRole('link', { name: '4 can’t get in' })).toBeVisible();
  await app.keyboard.press('Control+Shift+z');
  await expect(app.getByRole('link', { name: '3 can’t get in' })).toBeVisible();
  await expect(app.getByText(/r \d+ · saved/)).toBeVisible();
  await app.reload();
  await expect(guard).toHaveValue('held(hop) and falling');
  await expect(app.getByRole('link', { name: '3 can’t get in' })).toBeVisible();
  await app.getByRole('tab', { name: 'Findings' }).click();
  await expect(rows).toHaveCount(18);

  // The witness of the tie opens in Run at its tick.
  await app.getByRole('button', { name: /Slide and Crawl open/ }).click();
  await app.getByRole('link', { name: 'See it in Run' }).click();
  await expect(app.getByRole('slider', { name: 'Playhead' })).toHaveAttribute('aria-valuenow', '40');
  await expect(app.getByRole('complementary', { name: 'Why' })).toContainText('Open, but Slide came first.');
});
