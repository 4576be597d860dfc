import { homedir } from 'node:os';
import { join, resolve } from 'node:path';

export interface Config {
  port: number;
  host: string;
  /** Where the database lives. */
  data: string;
  hosts: string[];
}

/** Reads the environment; a value that makes no sense stops the start with a sentence. */
export function readConfig(env: NodeJS.ProcessEnv, platform: NodeJS.Platform = process.platform): Config {
  const port = Number(env['PORT'] ?? 4680);
  if (!Number.isInteger(port) || port < 0 || port > 65535)
    throw new RangeError(`PORT is '${env['PORT']}', expected a number from 0 to 65535`);
  const host = env['HOST'] ?? '127.0.0.1';
  const extra = (env['GLENMARK_HOSTS'] ?? '')
    .split(',')
    .map((h) => h.trim())
    .filter((h) => h !== '');
  return {
    port,
    host,
    data: resolve(env['GLENMARK_DATA'] ?? defaultData(env, platform)),
    hosts: ['localhost', '127.0.0.1', '[::1]', host, ...extra],
  };
}

function defaultData(env: NodeJS.ProcessEnv, platform: NodeJS.Platform): string {
  const home = homedir();
  if (home === '' || home === '/') return './.data';
  if (platform === 'win32') return join(env['LOCALAPPDATA'] ?? join(home, 'AppData', 'Local'), 'Glenmark');
  if (platform === 'darwin') return join(home, 'Library', 'Application Support', 'Glenmark');
  return join(env['XDG_DATA_HOME'] ?? join(home, '.local', 'share'), 'glenmark');
}
