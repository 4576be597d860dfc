import { serve } from './served.mjs';
const { url, browser, close } = await serve();
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  page.on('pageerror', (e) => console.log('PAGE', e.message));
  page.on('console', (m) => m.type() === 'error' && console.log('CONSOLE', m.text()));
  if (process.argv[2] === 'night') await page.addInitScript(() => localStorage.setItem('glenmark.theme', 'night'));
  const steps = await import(`/tmp/mv/look-${process.argv[3] ?? 1}.mjs`);
  await steps.default(page, url);
} finally { await close(); }
