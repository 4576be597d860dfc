import { choose, expect, test } from './app.js';

test('a course is drawn, measured, undone, and says where a body fits', async ({ app }) => {
  await app.getByRole('link', { name: 'Lower quay' }).click();
  const sheet = app.getByRole('group', { name: 'Course', exact: true });
  await expect(sheet).toBeVisible();
  const pieces = sheet.getByRole('button');
  const before = await pieces.count();
  const box = (await sheet.boundingBox())!;
  const drag = async (x1: number, y1: number, x2: number, y2: number): Promise<void> => {
    await app.mouse.move(box.x + x1, box.y + y1);
    await app.mouse.down();
    await app.mouse.move(box.x + x2, box.y + y2, { steps: 4 });
    await app.mouse.up();
  };
  // All of its things are listed, and found there.
  const numbers = app.getByRole('complementary', { name: 'Numbers' });
  await expect(numbers.getByRole('listitem')).toHaveCount(before);
  const first = numbers.getByRole('listitem').first().getByRole('button');
  const name = await first.innerText();
  await first.click();
  await expect(numbers.getByRole('heading', { name: `solid ${name}` })).toBeVisible();
  // A solid by dragging; its numbers beside the sheet.
  await app.getByRole('radio', { name: 'Solid', exact: true }).click();
  await drag(200, 60, 260, 100);
  await expect(pieces).toHaveCount(before + 1);
  const corner = app.getByRole('textbox', { name: 'corner 1 x' });
  await expect(corner).toHaveValue(/^-?[\d.]+ m$/);
  await app.getByRole('textbox', { name: 'name' }).fill('barrel');
  await app.keyboard.press('Enter');
  await expect(sheet.getByRole('button', { name: 'solid barrel' })).toBeVisible();
  // A wrong number stays where it is written, and changes nothing.
  const old = await corner.inputValue();
  await corner.fill('3 s');
  await expect(app.getByText('found a length of time, expected a length. Not applied yet.')).toBeVisible();
  await corner.press('Escape');
  await expect(corner).toHaveValue(old);
  // A step by keyboard, a copy, and all of it undone.
  await sheet.getByRole('button', { name: 'solid barrel' }).focus();
  await app.keyboard.press('Enter');
  await app.keyboard.press('ArrowRight');
  await expect(corner).not.toHaveValue(old);
  await app.getByRole('button', { name: 'Duplicate' }).click();
  await expect(pieces).toHaveCount(before + 2);
  for (let i = 0; i < 4; i++) await app.getByRole('button', { name: 'Undo' }).click();
  await expect(pieces).toHaveCount(before);
  await expect(app.getByText(/r \d+ · saved/)).toBeVisible();
  // Several at once: two drawn, brought to one line, spread, removed, and all of it undone.
  for (const [x, y] of [
    [200, 60],
    [300, 75],
    [420, 90],
  ] as const) {
    await app.getByRole('radio', { name: 'Solid', exact: true }).click();
    await drag(x, y, x + 40, y + 30);
  }
  await expect(pieces).toHaveCount(before + 3);
  const [one, two, three] = [before, before + 1, before + 2].map((_, i) => ({
    x: 215 + i * 105,
    y: 75 + i * 15,
  }));
  await app.mouse.click(box.x + one!.x, box.y + one!.y);
  await expect(app.getByRole('heading', { name: 'solid' })).toBeVisible();
  await app.keyboard.down('Shift');
  await app.mouse.click(box.x + two!.x, box.y + two!.y);
  await expect(app.getByRole('heading', { name: '2 things' })).toBeVisible();
  await app.mouse.click(box.x + three!.x + 10, box.y + three!.y);
  await app.keyboard.up('Shift');
  await expect(app.getByRole('heading', { name: '3 things' })).toBeVisible();
  const tops = () =>
    sheet
      .locator('.piece.chosen, .piece.beside')
      .evaluateAll((list) => list.map((g) => Math.round(g.getBoundingClientRect().top)));
  expect(new Set(await tops()).size).toBe(3);
  await app.getByRole('button', { name: 'tops', exact: true }).click();
  await expect.poll(async () => new Set(await tops()).size).toBe(1);
  await app.getByRole('button', { name: 'across' }).click();
  await app.getByRole('button', { name: 'Remove all' }).click();
  await expect(pieces).toHaveCount(before);
  for (let i = 0; i < 8; i++) await app.keyboard.press('ControlOrMeta+z');
  await expect(app.getByRole('button', { name: 'Undo' })).toBeDisabled();
  await expect(pieces).toHaveCount(before);
  await expect(app.getByText(/r \d+ · saved/)).toBeVisible();
  // A body set down says what it meets.
  await app.getByRole('radio', { name: 'Set the body down' }).click();
  await choose(app.getByRole('combobox', { name: 'Body of' }), 'Lock keeper');
  await app.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
  await expect(app.getByText(/^(fits|no room)$/).first()).toBeVisible();
  // Played from there: a new tape of that body, at a spawn that was made for it.
  await choose(app.getByRole('combobox', { name: 'Body of' }), 'Courier');
  await app.getByRole('button', { name: 'Play from here' }).click();
  await expect(app).toHaveURL(/\/moveset\/courier\/run\?tape=lower-quay-from-/);
  await expect(app.getByRole('combobox', { name: 'Tape', exact: true })).toContainText(/^Lower quay from/);
});
