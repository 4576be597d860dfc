import pino from 'pino';
import { readConfig } from './config.js';
import { serve } from './serve.js';

const log = pino({ level: process.env['LOG_LEVEL'] ?? 'warn' });

try {
  const config = readConfig(process.env);
  const running = await serve(config, log);
  process.stdout.write(`Glenmark is at ${running.url} (data in ${config.data})\n`);
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
  const { code, message } = error as NodeJS.ErrnoException;
  const port = process.env['PORT'] ?? '4680';
  process.stderr.write(
    `Glenmark could not start: ${code === 'EADDRINUSE' ? `port ${port} is in use; stop what uses it, or set PORT` : message}\n`,
  );
  process.exit(1);
}
