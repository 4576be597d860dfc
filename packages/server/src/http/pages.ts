import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Middleware } from 'koa';
import serve from 'koa-static';

/** Stands in the built page where each request's nonce goes. */
const NONCE = 'GLENMARK_NONCE';

/** The web application: built files, kept for ever by their hashed names, and its page for every address of its own. */
export function pages(folder: string): Middleware[] {
  const index = join(folder, 'index.html');
  if (!existsSync(index)) return [];
  const page = readFileSync(index, 'utf8');
  const files = serve(folder, {
    index: false,
    setHeaders: (res, path) => {
      res.setHeader(
        'Cache-Control',
        /-[A-Z0-9]{8}\.\w+$/.test(path) ? 'public, max-age=31536000, immutable' : 'no-cache',
      );
    },
  });
  return [
    files as Middleware,
    async (ctx, next) => {
      const own =
        (ctx.method === 'GET' || ctx.method === 'HEAD') &&
        !/^\/(?:api\/|openapi|healthz|readyz|metrics)|\.\w+$/.test(ctx.path);
      if (!own) return next();
      ctx.type = 'html';
      ctx.set('Cache-Control', 'no-cache');
      ctx.body = page.replaceAll(NONCE, ctx.state['nonce'] as string);
    },
  ];
}
