// `npm run screenshots`: one current picture of each main view, from the samples, into docs/screenshots/.
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './build.mjs';
import { serve } from './served.mjs';

const VIEWS = [
  ['shelf', '/', ['day']],
  ['model', '/moveset/courier/model?from=Trot&to=Slide', ['day', 'night']],
  ['map', '/moveset/marram/model?as=map&state=Cling', ['day']],
  ['values', '/moveset/courier/model?beside=values', ['day']],
  ['text', '/moveset/courier/model?beside=text&state=Slide', ['night']],
  ['course', '/course/mill-yard', ['day', 'night']],
  ['run', '/moveset/courier/run?tape=culvert-slide&tick=60', ['day', 'night']],
  ['score', '/moveset/marram/run?tape=shaft-climb&tick=90', ['day']],
  ['expectations', '/moveset/marram/expectations', ['day'], 'table'],
  ['report', '/moveset/courier-draft/report', ['day']],
  ['findings', '/moveset/courier-draft/findings?open=IN2%2Flegs%2FGlide', ['day', 'night']],
];

const { url, browser, close } = await serve();
mkdirSync(join(root, 'docs/screenshots'), { recursive: true });
for (const [name, path, themes, until] of VIEWS) {
  for (const theme of themes) {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.addInitScript((t) => localStorage.setItem('glenmark.theme', t), theme);
    await page.goto(url + path);
    await page.waitForLoadState('networkidle');
    if (until !== undefined) await page.locator(until).waitFor();
    await page.waitForTimeout(2500);
    await page.screenshot({ path: join(root, `docs/screenshots/${name}-${theme}.png`) });
    await page.close();
  }
}

// Drive shows what somebody just did: two hops, and a third that opens nothing.
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.addInitScript(() => localStorage.setItem('glenmark.theme', 'day'));
await page.goto(`${url}/moveset/courier/run?tape=culvert-slide&tick=100`);
await page.getByRole('button', { name: 'Drive on from here' }).click();
await page.keyboard.down('KeyD');
await page.waitForTimeout(500);
for (const pause of [300, 180, 250]) {
  await page.keyboard.press('Space', { delay: 70 });
  await page.waitForTimeout(pause);
}
await page.keyboard.press('KeyP');
await page.waitForTimeout(400);
await page.screenshot({ path: join(root, 'docs/screenshots/drive-day.png') });

await page.close();

// Reach shows what takes the parasol.
const reach = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await reach.addInitScript(() => localStorage.setItem('glenmark.theme', 'day'));
await reach.goto(`${url}/moveset/marram/reach?course=tide-mill`);
await reach.getByRole('combobox', { name: 'And without' }).click();
await reach.getByRole('option', { name: 'parasol', exact: true }).click();
await reach.getByRole('button', { name: 'Find where it gets to' }).click();
await reach.getByRole('button', { name: 'Go on' }).waitFor({ timeout: 120_000 });
await reach.screenshot({ path: join(root, 'docs/screenshots/reach-day.png') });
await reach.close();

// Tune shows where the culvert slide begins to fail, and a place of it on trial.
const tune = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await tune.addInitScript(() => localStorage.setItem('glenmark.theme', 'day'));
await tune.goto(`${url}/moveset/courier/tune?tapes=culvert-slide`);
await tune.getByRole('row', { name: /^reach/ }).waitFor();
await tune.getByRole('tab', { name: 'Sweep', exact: true }).click();
for (const [box, option] of [
  ['Outcome to sweep', 'reach'],
  ['Dial to sweep', 'slideSpeed'],
  ['Second dial to sweep', 'crawlSpeed'],
]) {
  await tune.getByRole('combobox', { name: box, exact: true }).click();
  await tune.getByRole('option', { name: option, exact: true }).click();
}
await tune.getByRole('button', { name: 'Sweep', exact: true }).click();
const map = tune.getByRole('application', { name: /^Swept places/ });
for (let i = 0; i < 7; i++) await map.press('ArrowLeft');
for (let i = 0; i < 6; i++) await map.press('ArrowDown');
await map.press('Enter');
await tune.getByText(/No longer as expected/).waitFor();
await tune.screenshot({ path: join(root, 'docs/screenshots/tune-day.png') });
await tune.close();

// History shows what four saves did.
const courier = `${url}/api/movesets/courier`;
const saves = [
  ['A little faster', /value: 6\.2 m\/s/, 'value: 6.4 m/s'],
  ['Open is called Spread', /\bOpen\b/g, 'Spread'],
  ['Lower hop', /value: 2\.1 m,/, 'value: 1.2 m,'],
  ['Wider slide', /value: 9 m\/s/, 'value: 10 m/s'],
];
for (const [message, from, to] of saves) {
  const saved = await fetch(courier);
  const { text } = await saved.json();
  const answer = await fetch(courier, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json', 'If-Match': saved.headers.get('etag') },
    body: JSON.stringify({ text: text.replace(from, to), message }),
  });
  if (!answer.ok) throw new Error(await answer.text());
}
const history = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await history.addInitScript(() => localStorage.setItem('glenmark.theme', 'day'));
await history.goto(`${url}/moveset/courier/history?from=1`);
await history.getByRole('heading', { name: /^Findings/ }).waitFor();
await history.screenshot({ path: join(root, 'docs/screenshots/history-day.png') });

await close();
