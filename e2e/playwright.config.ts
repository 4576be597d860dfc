import { readFileSync } from 'node:fs';
import { defineConfig, type LaunchOptions } from '@playwright/test';

const browser = JSON.parse(readFileSync(new URL('browser.json', import.meta.url), 'utf8')) as LaunchOptions;

/** Debian's Chromium against the really started server; see `app.ts` for how it is started. */
export default defineConfig({
  testDir: '.',
  globalSetup: './build-once.mjs',
  testMatch: '*.spec.ts',
  outputDir: '../test-results',
  timeout: 240_000,
  expect: { timeout: 30_000 },
  // Keys and pointers come in real time: two beside each other on two processors lose some, and save hardly any time.
  workers: 1,
  reporter: 'list',
  forbidOnly: process.env['CI'] !== undefined,
  use: { viewport: { width: 1280, height: 800 }, launchOptions: browser },
});
