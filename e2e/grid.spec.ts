import { expect, importFiles, test } from './app.js';

test.use({ permissions: ['clipboard-read', 'clipboard-write'] });

/** The grid with many states: picked, ranked, sought, folded, reordered, and a state taken to another moveset. */
test('several crossings are picked and ranked in one step, states are sought, moved and copied', async ({
  app,
}) => {
  await app.getByRole('link', { name: 'Marram', exact: true }).click();
  const grid = app.getByRole('grid');
  const selected = grid.locator('[aria-selected=true]');

  // A rectangle by Shift and arrows; its rank is one step, and undo takes it back.
  await grid.getByRole('gridcell', { name: /^Trot to Rise: / }).click();
  await app.keyboard.press('Shift+ArrowRight');
  await app.keyboard.press('Shift+ArrowDown');
  const bar = app.getByRole('toolbar', { name: 'Picked crossings' });
  await expect(bar).toContainText('4 cells');
  await expect(selected).toHaveCount(4);
  await bar.getByRole('textbox', { name: 'Rank of all' }).fill('high');
  await app.keyboard.press('Tab');
  await expect(app.getByText('A rank is a whole number.')).toBeVisible();
  await bar.getByRole('textbox', { name: 'Rank of all' }).fill('7');
  await app.keyboard.press('Tab');
  await expect(grid.getByRole('gridcell', { name: /^Trot to Rise: .*rank 7/ })).toBeVisible();
  await app.getByRole('button', { name: 'Undo' }).click();
  await expect(grid.getByRole('gridcell', { name: /^Trot to Rise: .*rank 7/ })).toHaveCount(0);
  // One more cell with Ctrl, and none any more.
  await grid.getByRole('gridcell', { name: /^Trot to Wade: / }).click({ modifiers: ['ControlOrMeta'] });
  await expect(bar).toContainText('5 cells');
  await bar.getByRole('button', { name: 'Clear selection' }).click();
  await expect(bar).toHaveCount(0);

  // A group is folded: its members' rows and columns go, their crossings stay with it.
  const fold = grid.getByRole('button', { name: /^Members of / }).first();
  const rows = await grid.getByRole('row').count();
  await fold.click();
  await expect(fold).toHaveAttribute('aria-expanded', 'false');
  expect(await grid.getByRole('row').count()).toBeLessThan(rows);
  await fold.click();
  await expect(grid.getByRole('row')).toHaveCount(rows);

  // Sought by name.
  await app.getByRole('textbox', { name: 'Show states like' }).fill('kick cling');
  await expect(grid.getByRole('rowheader', { name: 'Cling' })).toBeVisible();
  await expect(grid.getByRole('rowheader', { name: 'Trot' })).toHaveCount(0);
  await app.getByRole('textbox', { name: 'Show states like' }).fill('');

  // A state is moved among its siblings.
  const names = (): Promise<string[]> => grid.getByRole('rowheader').allTextContents();
  const before = await names();
  await grid.getByRole('rowheader', { name: 'Trot' }).getByRole('button').click();
  await app.getByRole('button', { name: 'More for this state' }).click();
  await app.getByRole('menuitem', { name: 'Later in the grid' }).click();
  await expect.poll(names).not.toEqual(before);
  await app.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(names).toEqual(before);
  // By dragging its row; what is in a group stays there.
  const head = (name: string) => grid.getByRole('rowheader', { name }).getByText(name, { exact: true });
  const from = (await head('Slide').boundingBox())!;
  const to = (await head('Trot').boundingBox())!;
  await app.mouse.move(from.x + 10, from.y + 8);
  await app.mouse.down();
  await app.mouse.move(from.x + 10, from.y - 10, { steps: 3 });
  await app.mouse.move(to.x + 10, to.y - 6, { steps: 8 });
  await app.mouse.up();
  await expect.poll(names).not.toEqual(before);
  expect((await names()).indexOf('Slide')).toBeLessThan((await names()).indexOf('Trot'));
  await app.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(names).toEqual(before);

  // A dial beside the curve that moves with it.
  await head('Trot').click();
  const sheet = app.getByRole('complementary', { name: 'sheet' });
  await expect(sheet.getByText(/^6\.2.m\/s in /)).toBeVisible();
  await sheet.getByRole('slider', { name: 'Turn trotSpeed' }).press('ArrowRight');
  await expect(sheet.getByText(/^6\.3.m\/s in /)).toBeVisible();
  await app.getByRole('button', { name: 'Undo' }).click();
  await expect(sheet.getByText(/^6\.2.m\/s in /)).toBeVisible();

  // A stance by its dimension: a drag is one step, arrows are five centimetres.
  await app.getByRole('tab', { name: 'values', exact: true }).click();
  const tall = app.getByRole('slider', { name: 'height of tucked' });
  await tall.focus();
  await app.keyboard.press('ArrowUp');
  await expect(tall).toHaveAttribute('aria-valuenow', '0.85');
  const at = (await tall.boundingBox())!;
  await app.mouse.move(at.x + 4, at.y + 4);
  await app.mouse.down();
  await app.mouse.move(at.x + 4, at.y - 12, { steps: 6 });
  await app.mouse.up();
  await expect(tall).toHaveAttribute('aria-valuenow', '1.05');
  await app.getByRole('button', { name: 'Undo' }).click();
  await expect(tall).toHaveAttribute('aria-valuenow', '0.8');

  // What is open at a tick of a run is shown where it is written.
  await app.getByRole('tab', { name: 'Run', exact: true }).click();
  await app.getByRole('slider', { name: 'Playhead' }).focus();
  await app.keyboard.press('Shift+ArrowRight');
  await app.getByRole('tab', { name: 'Model', exact: true }).click();
  await expect(app.getByText(/open at tick 10 of /)).toBeVisible();

  // Copied here, put into another moveset there.
  await grid.getByRole('rowheader', { name: 'Slide' }).getByRole('button').click();
  await app.getByRole('button', { name: 'More for this state' }).click();
  await app.getByRole('menuitem', { name: 'Copy, for any moveset' }).click();
  await expect(app.getByText(/Slide is copied/)).toBeVisible();
  expect(await app.evaluate(() => navigator.clipboard.readText())).toMatch(
    /^states:\n {2}Slide:\n[^]*\ncrossings:\n {2}- from: Slide\n/,
  );
  await app.getByRole('link', { name: /to the shelf/ }).click();
  await app.getByRole('button', { name: 'New moveset' }).click();
  await grid.getByRole('gridcell').first().click();
  await app.keyboard.press('ControlOrMeta+v');
  await expect(app.getByText(/Not pasted: |Slide is here/)).toBeVisible();
});

/** A moveset of so many states in one lane, each with a way to the next and to the seventh after it. */
const many = (count: number): string => `glenmark: 1
kind: moveset
name: Sixty
gravity: 30 m/s2
controls: { hop: { button: [Space] } }
body: { stances: { tall: { shape: capsule, width: 0.7 m, height: 1.7 m } } }
lanes:
  - name: legs
    initial: S0
    states:
${Array.from({ length: count }, (_, i) => `      S${i}: { stance: tall }`).join('\n')}
    crossings:
${Array.from({ length: count }, (_, i) =>
  [1, 7]
    .map((by) => `      - { from: S${i}, to: S${(i + by) % count}, when: elapsed >= 0.${by} s }`)
    .join('\n'),
).join('\n')}
`;

test('a grid of sixty states makes what is in sight, and all of it can be reached, written and dragged', async ({
  app,
}) => {
  await importFiles(app, [
    { name: 'sixty.yaml', mimeType: 'application/yaml', buffer: Buffer.from(many(60)) },
  ]);
  await app.getByRole('link', { name: 'Sixty' }).click();
  const grid = app.getByRole('grid');
  const cell = (name: string) => grid.getByRole('gridcell', { name });
  await expect(grid).toHaveAttribute('aria-rowcount', '60');
  await cell('S0 to S1: 0.1 s').click();
  expect(await grid.getByRole('gridcell').count()).toBeLessThan(500);

  // By keyboard into the far corner, and a guard written there.
  await app.keyboard.press('End');
  await expect(cell('S0 to S59: no crossing')).toBeFocused();
  for (let i = 0; i < 6; i++) await app.keyboard.press('PageDown');
  await expect(cell('S59 to S59: no crossing')).toBeFocused();
  await expect(cell('S59 to S59: no crossing')).toBeInViewport({ ratio: 1 });
  await app.keyboard.press('ArrowLeft');
  await app.keyboard.type('pressed(hop)');
  await app.keyboard.press('Enter');
  await expect(cell('S59 to S58: hop')).toBeFocused();
  for (const key of ['Home', 'PageUp']) await app.keyboard.press(key);
  await expect(cell('S49 to S0: no crossing')).toBeFocused();
  // Scrolled away with the wheel, the keyboard goes on from there.
  await cell('S49 to S0: no crossing').hover();
  await app.mouse.wheel(0, -4000);
  await expect(cell('S0 to S1: 0.1 s')).toBeInViewport();
  await expect(cell('S49 to S0: no crossing')).toHaveCount(0);
  await app.keyboard.press('ArrowUp');
  await expect(cell('S48 to S0: no crossing')).toBeFocused();

  // A row is dragged past others, some of which were not there before.
  const row = (name: string) => grid.getByRole('rowheader', { name }).getByRole('button');
  /** Where a row is once the grid has stopped scrolling to the focused cell. */
  const settled = async (name: string) => {
    let last = '';
    await expect.poll(async () => last === (last = JSON.stringify(await row(name).boundingBox()))).toBe(true);
    return (await row(name).boundingBox())!;
  };
  const from = await settled('S48');
  const top = async (name: string) => (await row(name).boundingBox())!.y;
  const rowHeight = (await top('S46')) - (await top('S45'));
  await app.mouse.move(from.x + 8, from.y + 6);
  await app.mouse.down();
  await app.mouse.move(from.x + 8, from.y - 12, { steps: 4 });
  // The rows make room after the pointer came. A hand aims at the middle of the row that is to make room, or of the gap
  // that it has left, and lets go when the gap stays.
  let nudge = 0;
  let gaps = 0;
  await expect
    .poll(async () => {
      await app.mouse.move(from.x + 8, (await top('S44')) + 1.5 * rowHeight + (nudge++ % 2), { steps: 4 });
      gaps = (await top('S45')) - (await top('S44')) > 1.9 * rowHeight ? gaps + 1 : 0;
      return gaps;
    })
    .toBeGreaterThan(2);
  await app.mouse.up();
  await expect(app.getByRole('button', { name: 'Undo' })).toBeEnabled();
  const names = () => grid.getByRole('rowheader').allInnerTexts();
  await expect
    .poll(async () => (await names()).map((n) => n.trim()).join(' '))
    .toMatch(/S44 S48 S45 S46 S47 S49/);
});
