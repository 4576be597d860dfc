import { expect, test } from './app.js';

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
  // A solid by dragging; its numbers beside the sheet.
  await app.getByRole('button', { name: 'Solid', exact: true }).click();
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
  // A body set down says what it meets.
  await app.getByRole('button', { name: 'Set the body down' }).click();
  await app.getByRole('combobox', { name: 'Body of' }).selectOption('Lock keeper');
  await app.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
  await expect(app.getByText(/^(fits|no room)$/).first()).toBeVisible();
  // Played from there: a new tape of that body, at a spawn that was made for it.
  await app.getByRole('combobox', { name: 'Body of' }).selectOption('Courier');
  await app.getByRole('button', { name: 'Play from here' }).click();
  await expect(app).toHaveURL(/\/moveset\/courier\/run\?tape=lower-quay-from-/);
  await expect(app.getByLabel('Tape', { exact: true })).toHaveValue(/^lower-quay-from-/);
});
