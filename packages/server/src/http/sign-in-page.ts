/** The colours of the application's two themes, for the one page that is shown before the application may be loaded. */
const DAY =
  '--paper: #f1eee4; --sheet: #fbf9f3; --ink: #1d292d; --ink-2: #4e5c5b; --rule: #bdb6a3; --rowan: #ad3529; --tide: #28688f;';
const NIGHT =
  '--paper: #12181a; --sheet: #192124; --ink: #e8e5da; --ink-2: #a9b3b0; --rule: #46545a; --rowan: #f08173; --tide: #7cb9dd;';

const STYLE = `
  :root { color-scheme: light; ${DAY} }
  @media (prefers-color-scheme: dark) { :root { color-scheme: dark; ${NIGHT} } }
  * { box-sizing: border-box; margin: 0; }
  body { font: 15px/1.5 'Barlow', system-ui, sans-serif; color: var(--ink); background: var(--paper); }
  header { display: flex; align-items: center; gap: 8px; height: 44px; padding: 0 14px;
    background: var(--sheet); border-bottom: 1px solid var(--rule); font-size: 17px; letter-spacing: .04em; }
  form { display: grid; gap: 10px; width: min(30rem, 100% - 2rem); margin: 48px auto; padding: 20px 24px 24px;
    background: var(--sheet); border: 1px solid var(--rule); }
  h1 { font-size: 20px; font-weight: 500; padding-bottom: 8px; border-bottom: 1px solid var(--ink); }
  label { color: var(--ink-2); }
  input, button { font: inherit; color: inherit; height: 34px; padding: 0 10px; border: 1px solid var(--rule); border-radius: 3px; }
  input { font-family: ui-monospace, monospace; background: var(--paper); }
  input:focus-visible, button:focus-visible { outline: 2px solid var(--tide); outline-offset: 1px; }
  button { justify-self: start; color: var(--sheet); background: var(--ink); border-color: var(--ink); }
  [role='alert'] { color: var(--rowan); }
`;

const MARK = `<svg width="22" height="22" viewBox="0 0 22 22" fill="none" stroke="currentColor" stroke-width="1.5" aria-hidden="true"><path d="M1 17c3-1 4-9 7-9s3 6 5 6 3-9 8-10"/><path d="M1 20.5c4-1 5-6 7.5-6s3 4 5 4 4-6 7.5-7" opacity=".45"/></svg>`;

/** The sign-in page: one field, no script. `wrong` is a sentence of ours about the last try, or empty. */
export const signInPage = (action: string, nonce: string, wrong: string): string => `<!doctype html>
<html lang="en">
<head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>Sign in · Glenmark</title>
<style nonce="${nonce}">${STYLE}</style></head>
<body><header>${MARK} Glenmark</header>
<main><form method="post" action="${action}">
  <h1>Sign in</h1>
  <label for="token">Access token, as printed where the server was started</label>
  <input id="token" name="token" type="password" autocomplete="current-password" required autofocus>
  ${wrong === '' ? '' : `<p role="alert">${wrong}</p>`}
  <button>Sign in</button>
</form></main></body></html>`;
