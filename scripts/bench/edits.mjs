// `node scripts/bench/edits.mjs`: how long Chromium takes from a key to the second frame after it, in the grid of a sample
// and of a moveset of 60 states. Two frames take 17 to 33 ms when there is nothing to do.
import { serve } from '../served.mjs';
import { largeMoveset } from './movesets.mjs';

const TIMES = 24;
/** Guards written, each another than before. */
const ROUNDS = 12;
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
  const opened = [];
  const written = [];
  for (let round = 0; round < ROUNDS; round++) {
    const guard = `grounded and speed > ${round} m/s`;
    opened.push(...(await times(page, 1, () => ({ key: 'Enter' }))));
    await inInput(page);
    await page.evaluate(() => document.activeElement.select());
    typed.push(...(await times(page, guard.length, (n) => ({ text: guard[n] }))));
    // The first Escape may only close what is offered.
    while (!(await isInCell(page))) await page.keyboard.press('Escape');
    await page.keyboard.press('Enter');
    await inInput(page);
    await page.evaluate((g) => {
      document.activeElement.select();
      document.execCommand('insertText', false, g);
    }, guard);
    await page.waitForTimeout(300);
    written.push(...(await times(page, 1, () => ({ key: 'Enter' }))));
    await page.waitForTimeout(600);
    if (!(await isInCell(page))) throw new Error(`${id}: ${guard} was not written`);
  }
  const turned = await turns(page);
  const told = (name, all) => {
    const sorted = [...all].sort((a, b) => a - b);
    const at = (share) => `${sorted[Math.floor((sorted.length - 1) * share)].toFixed(0)} ms`;
    return `${name}: median ${at(0.5)}, nine of ten within ${at(0.9)}, slowest ${at(1)}`;
  };
  process.stdout.write(
    `${id}, ${cells} cells made\n  ${told('arrow', arrows)}\n  ${told('letter of a guard', typed)}\n  ${told('Enter that opens a guard', opened)}\n  ${told('Enter that writes it', written)}\n  ${told('step of a dial beside its curve', turned)}\n`,
  );
  await page.close();
}

async function isInCell(page) {
  return page.evaluate(() => document.activeElement.getAttribute('role') === 'gridcell');
}

/** Waits for the caret to be where a guard is typed. */
async function inInput(page) {
  await page.waitForFunction(() => document.activeElement.tagName === 'INPUT');
}

/** A dial beside the curve that moves with it: that of the first state that has one. */
async function turns(page) {
  const slider = page.getByRole('slider', { name: /^Turn / }).first();
  for (const head of await page.getByRole('rowheader').all()) {
    await head.getByRole('button').click();
    await page.waitForTimeout(200);
    if ((await slider.count()) > 0) break;
  }
  const all = [];
  for (let n = 0; n < TIMES; n++)
    all.push(
      await slider.evaluate(
        (input, by) =>
          new Promise((done) => {
            const start = performance.now();
            input.value = String(Number(input.value) + by * Number(input.step));
            input.dispatchEvent(new Event('input', { bubbles: true }));
            input.dispatchEvent(new Event('change', { bubbles: true }));
            requestAnimationFrame(() => requestAnimationFrame(() => done(performance.now() - start)));
          }),
        // To either side by turns, farther each time: never a value that was there before.
        n % 2 === 0 ? n + 1 : -(n + 1),
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
