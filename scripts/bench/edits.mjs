// `node scripts/bench/edits.mjs`: how long Chromium takes from a key to the second frame after it, in the grid of a sample
// and of a moveset of 60 states. Two frames take 17 to 33 ms when there is nothing to do.
import { serve } from '../served.mjs';
import { largeMoveset } from './movesets.mjs';

const TIMES = 24;
const { url, browser, close } = await serve();
try {
  const text = largeMoveset(1, 60, 240);
  await fetch(`${url}/api/movesets`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ text, message: 'For measuring' }),
  });
  for (const id of ['courier', 'marram', 'large']) await measure(id);
} finally {
  await close();
}

async function measure(id) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${url}/moveset/${id}/model`);
  await page.getByRole('gridcell').first().waitFor();
  await page.waitForTimeout(3000);
  await page.getByRole('gridcell').nth(3).click();
  const cells = await page.getByRole('gridcell').count();
  const arrows = await times(page, TIMES, (n) => ({ key: n % 2 === 0 ? 'ArrowDown' : 'ArrowUp' }));
  const typed = [];
  const entered = [];
  for (let round = 0; round < 5; round++) {
    const guard = `grounded and speed > ${round} m/s`;
    entered.push(...(await times(page, 1, () => ({ key: 'Enter' }))));
    await page.evaluate(() => document.activeElement.select?.());
    typed.push(...(await times(page, guard.length, (n) => ({ text: guard[n] }))));
    await page.keyboard.press('Escape');
    await page.keyboard.press('Enter');
    await page.evaluate((g) => {
      document.activeElement.select?.();
      document.execCommand('insertText', false, g);
    }, guard);
    await page.waitForTimeout(300);
    entered.push(...(await times(page, 1, () => ({ key: 'Enter' }))));
    await page.waitForTimeout(600);
  }
  const turned = id === 'courier' ? await turns(page) : [];
  const told = (name, all) => {
    const sorted = [...all].sort((a, b) => a - b);
    const at = (share) => `${sorted[Math.floor((sorted.length - 1) * share)].toFixed(0)} ms`;
    return `${name}: median ${at(0.5)}, nine of ten within ${at(0.9)}, slowest ${at(1)}`;
  };
  process.stdout.write(
    `${id}, ${cells} cells made\n  ${told('arrow', arrows)}\n  ${told('letter of a guard', typed)}\n  ${told('Enter', entered)}\n${turned.length > 0 ? `  ${told('step of a dial beside its curve', turned)}\n` : ''}`,
  );
  await page.close();
}

/** A dial beside the curve that moves with it. */
async function turns(page) {
  await page.getByRole('rowheader', { name: 'Trot' }).getByRole('button').click();
  await page.getByRole('slider', { name: 'Turn trotSpeed' }).waitFor();
  const all = [];
  for (let n = 0; n < TIMES; n++)
    all.push(
      await page.evaluate(
        (by) =>
          new Promise((done) => {
            const slider = document.querySelector('input[aria-label="Turn trotSpeed"]');
            const start = performance.now();
            slider.value = String(Number(slider.value) + by);
            slider.dispatchEvent(new Event('input', { bubbles: true }));
            slider.dispatchEvent(new Event('change', { bubbles: true }));
            requestAnimationFrame(() => requestAnimationFrame(() => done(performance.now() - start)));
          }),
        n % 2 === 0 ? 0.1 : -0.1,
      ),
    );
  return all;
}

/** From the event to the second frame after it, so many times (ms). */
async function times(page, count, event) {
  const all = [];
  for (let n = 0; n < count; n++)
    all.push(
      await page.evaluate(
        ({ key, text }) =>
          new Promise((done) => {
            const start = performance.now();
            if (key === undefined) document.execCommand('insertText', false, text);
            else
              document.activeElement.dispatchEvent(
                new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }),
              );
            requestAnimationFrame(() => requestAnimationFrame(() => done(performance.now() - start)));
          }),
        event(n),
      ),
    );
  return all;
}
