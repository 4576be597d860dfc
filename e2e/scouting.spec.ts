import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { choose, expect, startServer, test } from './app.js';

test('the draft is scouted: progress, a trap with its run, a repair, and back', async ({ page: app }) => {
  test.setTimeout(180_000);
  // A server of its own: what scouting finds would be seen by the other tests.
  const data = mkdtempSync(join(tmpdir(), 'glenmark-e2e-'));
  const { child, url } = await startServer(data);
  await app.goto(url);
  await app.getByRole('link', { name: 'Courier draft' }).click();
  await app.getByRole('tab', { name: 'Findings', exact: true }).click();
  const row = (sentence: RegExp) => app.getByRole('article').filter({ hasText: sentence });
  await expect(row(/Vault may become a trap/)).toContainText('suspected');
  const panel = app.getByRole('complementary', { name: 'Scouting' });
  await choose(panel.getByRole('combobox', { name: 'Situations' }), '100,000');
  await panel.getByRole('button', { name: 'Start scouting' }).click();
  await expect(panel.getByText('situations, ', { exact: false })).toBeVisible();
  await expect(panel.getByText(/^\d+\/23$/)).toBeVisible({ timeout: 60_000 });
  await expect(panel.getByText('done', { exact: true })).toBeVisible({ timeout: 120_000 });

  // The trap was seen; its tape is played here, and in Run.
  const trap = row(/Vault is a trap/);
  await expect(trap).toContainText('witnessed');
  await trap.getByRole('button').first().click();
  await expect(trap.getByRole('slider', { name: 'Tick of the witness' })).toBeVisible();
  await trap.getByRole('button', { name: 'Play', exact: true }).click();
  await trap.getByRole('button', { name: 'Keep the tape and open it in Run' }).click();
  await expect(app.getByRole('img', { name: 'states of legs' })).toContainText('Vault');
  await expect(app).toHaveURL(/run\?tape=out3-vault&tick=\d+/);

  // The grid shows what was used.
  await app.getByRole('tab', { name: 'Model', exact: true }).click();
  await expect(app.getByText('used in scouting')).toBeVisible();

  // A repair is made, its finding goes, undo brings it back.
  await app.getByRole('tab', { name: 'Findings', exact: true }).click();
  const dry = row(/vaults runs dry/);
  await dry.getByRole('button').first().click();
  await dry.getByRole('button', { name: /^Refill vaults/ }).click();
  await expect(dry).toHaveCount(0);
  await app.getByRole('button', { name: 'Undo' }).click();
  await expect(dry).toHaveCount(1);

  // One is accepted with a reason.
  const probe = row(/The probe chin ends inside/);
  await probe.getByRole('button').first().click();
  await probe.getByRole('textbox', { name: 'Why it is meant to be so' }).fill('a joke');
  await app.keyboard.press('Enter');
  await expect(probe).toContainText('Accepted: a joke.');
  const ended = new Promise((done) => child.once('exit', done));
  child.kill('SIGTERM');
  await ended;
  rmSync(data, { recursive: true, force: true });
});

test('a short scouting in the page: findings as they come, stopped, gone on with, and where nothing came', async ({
  app,
}) => {
  test.setTimeout(120_000);
  await app.getByRole('link', { name: 'Courier draft' }).click();
  await app.getByRole('tab', { name: 'Findings', exact: true }).click();
  const panel = app.getByRole('complementary', { name: 'Scouting' });
  await panel.getByRole('radio', { name: /in this page/ }).check();
  await panel.getByRole('checkbox', { name: /all over the course/ }).check();
  await choose(panel.getByRole('combobox', { name: 'Situations' }), '2,000,000');
  await panel.getByRole('button', { name: 'Start scouting' }).click();
  await expect(panel.getByText('scouting', { exact: true })).toBeVisible();
  // What it finds is in the list while it goes on.
  await expect(app.getByRole('article').filter({ hasText: /Vault is a trap/ })).toBeVisible({
    timeout: 60_000,
  });
  await expect(panel.getByText('scouting', { exact: true })).toBeVisible();
  await panel.getByRole('button', { name: 'Stop', exact: true }).click();
  await expect(panel.getByText('stopped', { exact: true })).toBeVisible({ timeout: 60_000 });
  const situations = async (): Promise<number> =>
    Number(/^([\d,]+) situations$/m.exec(await panel.innerText())![1]!.replaceAll(',', ''));
  const before = await situations();
  await panel.getByRole('button', { name: 'Go on' }).click();
  await expect.poll(situations, { timeout: 30_000 }).toBeGreaterThan(before);
  await panel.getByRole('button', { name: 'Stop', exact: true }).click();
  await expect(panel.getByText('stopped', { exact: true })).toBeVisible({ timeout: 60_000 });
  // What nothing used leads to the reason, which is drawn.
  await panel.getByRole('link', { name: 'legs Glide', exact: true }).click();
  await expect(app.getByText('never with')).toBeVisible();
});

test('a long scouting is found again after the server went away', async ({ page }) => {
  test.setTimeout(240_000);
  const data = mkdtempSync(join(tmpdir(), 'glenmark-e2e-'));
  const first = await startServer(data);
  await page.goto(`${first.url}/moveset/courier/findings`);
  const panel = page.getByRole('complementary', { name: 'Scouting' });
  await choose(panel.getByRole('combobox', { name: 'Situations' }), '2,000,000');
  await panel.getByRole('button', { name: 'Start scouting' }).click();
  await expect(panel.getByText('scouting', { exact: true })).toBeVisible({ timeout: 30_000 });
  const gone = new Promise((done) => first.child.once('exit', done));
  first.child.kill('SIGKILL');
  await gone;
  await expect(
    panel.getByText('Connection lost. The search continues; this page will catch up.'),
  ).toBeVisible();
  const second = await startServer(data, new URL(first.url).port);
  try {
    await expect(
      panel.getByText('Connection lost. The search continues; this page will catch up.'),
    ).toHaveCount(0, {
      timeout: 30_000,
    });
    await expect(panel.getByText('scouting', { exact: true })).toBeVisible({ timeout: 30_000 });
    await panel.getByRole('button', { name: 'Stop', exact: true }).click();
    await expect(panel.getByText('stopped', { exact: true })).toBeVisible({ timeout: 30_000 });
    await expect(panel.getByRole('button', { name: 'Go on' })).toBeVisible();
  } finally {
    const ended = new Promise((done) => second.child.once('exit', done));
    second.child.kill('SIGTERM');
    await ended;
    rmSync(data, { recursive: true, force: true });
  }
});
