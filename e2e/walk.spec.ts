import { expect, test } from './app.js';

/** The first walk, by keyboard alone: nobody touches a mouse after the page is there. */
test('the first walk is taken by keyboard alone, step by step, and found again', async ({ app }) => {
  const walk = app.getByRole('region', { name: 'First walk' });
  const press = async (keys: string, times = 1): Promise<void> => {
    for (let i = 0; i < times; i++) await app.keyboard.press(keys);
  };
  /** Tab by Tab to what has this name. */
  const tabTo = async (name: RegExp): Promise<void> => {
    for (let i = 0; i < 150; i++) {
      await press('Tab');
      // In one question to the page: between two, the focus may have gone on.
      const said = await app.evaluate(() => {
        const focused = document.activeElement;
        return `${focused?.getAttribute('aria-label') ?? null} ${focused?.textContent ?? ''}`;
      });
      if (name.test(said)) return;
    }
    throw new Error(`Tab never came to ${name}`);
  };

  await tabTo(/Take the walk/);
  await press('Enter');
  await expect(walk).toContainText('Open Signal kite');
  await tabTo(/Signal kite/);
  await press('Enter');
  await expect(walk).toContainText('press Play');

  await tabTo(/^null\s*Model\s*$/);
  await press('ArrowRight');
  await press('Enter');
  await expect(app.getByRole('slider', { name: 'Playhead' })).toBeVisible();
  await tabTo(/^null\s*Play\s*$/);
  await press('Enter');
  await expect(walk).toContainText('when it was open');
  await tabTo(/^When is/);
  await press('Enter');
  await expect(walk).toContainText('break something');

  await tabTo(/^null\s*Run\s*$/);
  await press('ArrowLeft');
  await press('Enter');
  await expect(app.getByRole('grid')).toBeVisible();
  await tabTo(/^\w+ to \w+/);
  await press('PageDown');
  await press('Home');
  await press('ArrowUp', 3);
  await press('ArrowDown', 2);
  await expect(app.getByRole('gridcell', { name: /^Drift to Moored/ })).toBeFocused();
  await app.keyboard.type('grounded and airborne');
  await press('Enter');
  await expect(walk).toContainText('counts what is wrong');
  await tabTo(/^null\s*Model\s*$/);
  await press('ArrowRight', 3);
  await press('Enter');
  await expect(app.getByText(/Drift can never be left/)).toBeVisible();
  await expect(walk).toContainText('take it back');
  await press('Control+z');
  await expect(walk).toContainText('whole round');

  await tabTo(/^null\s*Done\s*$/);
  await press('Enter');
  await expect(walk).toHaveCount(0);
  // Found again where the keys are; and the shelf does not offer it twice.
  await press('?');
  await tabTo(/Take the first walk/);
  await press('Enter');
  await expect(walk).toContainText('Open Signal kite');
  await tabTo(/Leave the walk/);
  await press('Enter');
  await expect(app.getByRole('button', { name: 'Take the walk' })).toHaveCount(0);
});
