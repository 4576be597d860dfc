import pino from 'pino';
import { placeWords, readConfig } from './config.js';
import { serve } from './serve.js';

const level = process.env['LOG_LEVEL'] || 'warn';

try {
  if (!(level in pino.levels.values) && level !== 'silent')
    throw new RangeError(
      `LOG_LEVEL is '${level}', expected ${Object.keys(pino.levels.values).join(', ')} or silent`,
    );
  const log = pino({ level });
  const config = readConfig(process.env);
  const running = await serve(config, log);
  for (const note of running.notes) process.stdout.write(`${note}\n`);
  process.stdout.write(`Glenmark is at ${running.url} (data in ${placeWords(config.place)})\n`);
  if (running.token !== undefined)
    process.stdout.write(`Others can reach it, so it asks for a token: ${running.token}\n`);
  let stopping = false;
  const stop = (): void => {
    if (stopping) return;
    stopping = true;
    running.stop().then(
      () => process.exit(0),
      (error: unknown) => {
        log.error({ err: error }, 'could not stop cleanly');
        process.exit(1);
      },
    );
  };
  process.on('SIGINT', stop);
  process.on('SIGTERM', stop);
} catch (error) {
  process.stderr.write(`Glenmark could not start: ${sentenceOf(error as NodeJS.ErrnoException)}\n`);
  process.exit(1);
}

function sentenceOf({ code, message, hostname }: NodeJS.ErrnoException & { hostname?: string }): string {
  const port = process.env['PORT'] || '4680';
  const host = process.env['HOST'] || '127.0.0.1';
  switch (code) {
    case 'EADDRINUSE':
      return `port ${port} is in use; stop what uses it, or set PORT`;
    case 'ENOTFOUND':
    case 'EADDRNOTAVAIL':
      if (hostname === undefined || hostname === host)
        return `this machine has no address ${host}; set HOST to one that it has`;
      return `there is no machine ${hostname}; set DATABASE_URL to a database that can be reached`;
    case 'ECONNREFUSED':
    case 'ETIMEDOUT':
      return `the database cannot be reached (${message}); set DATABASE_URL to one that can, or to nothing`;
    case 'EACCES':
      return `it may not use what it needs (${message}); set PORT above 1023, or GLENMARK_DATA to a folder of yours`;
    default:
      return message;
  }
}
