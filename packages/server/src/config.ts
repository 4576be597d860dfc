import { homedir } from 'node:os';
import { join, resolve } from 'node:path';
import type { Place } from './store/store.js';

export interface Config {
  port: number;
  host: string;
  /** Where the documents are. */
  place: Place;
  /** Names that requests may come under. */
  hosts: string[];
  /** The token that everybody needs; `make` when one is to be made, undefined when nobody needs one. */
  token: string | 'make' | undefined;
}

/** Reads the environment; a value that makes no sense stops the start with a sentence. Empty values count as not set. */
export function readConfig(env: NodeJS.ProcessEnv, platform: NodeJS.Platform = process.platform): Config {
  const given = (name: string): string | undefined => {
    const value = env[name]?.trim();
    return value === '' ? undefined : value;
  };
  const port = Number(given('PORT') ?? 4680);
  if (!Number.isInteger(port) || port < 0 || port > 65535)
    throw new RangeError(`PORT is '${env['PORT']}', expected a number from 0 to 65535`);
  const host = (given('HOST') ?? '127.0.0.1').replace(/^\[(.*)\]$/, '$1');
  const extra = (given('GLENMARK_HOSTS') ?? '')
    .split(',')
    .map((h) => h.trim().toLowerCase())
    .filter((h) => h !== '');
  const token = given('GLENMARK_TOKEN');
  if (token !== undefined && token.length < 16)
    throw new RangeError(`GLENMARK_TOKEN has ${token.length} characters, expected at least 16`);
  return {
    port,
    host,
    place: placeOf(given('DATABASE_URL'), () =>
      resolve(given('GLENMARK_DATA') ?? defaultData(env, platform)),
    ),
    hosts: [
      'localhost',
      '127.0.0.1',
      '[::1]',
      host.includes(':') ? `[${host}]` : host.toLowerCase(),
      ...extra,
    ],
    token: token ?? (isLoopback(host) ? undefined : 'make'),
  };
}

function placeOf(url: string | undefined, folder: () => string): Place {
  if (url === undefined) return { folder: folder() };
  if (!URL.canParse(url) || !/^postgres(ql)?:$/.test(new URL(url).protocol))
    // The value is not told: it may have a password in it.
    throw new RangeError('DATABASE_URL is no address of a database, expected postgres://user@host/database');
  return { url };
}

/** A place in words, without a password. */
export function placeWords(place: Place): string {
  if ('folder' in place) return place.folder;
  const { protocol, host, pathname } = new URL(place.url);
  return `${protocol}//${host}${pathname}`;
}

/** Whether only this machine can reach a server that listens there. */
const isLoopback = (host: string): boolean =>
  host === 'localhost' || host === '::1' || /^127(?:\.\d{1,3}){3}$/.test(host);

function defaultData(env: NodeJS.ProcessEnv, platform: NodeJS.Platform): string {
  const home = homedir();
  if (home === '' || home === '/') return './.data';
  if (platform === 'win32') return join(env['LOCALAPPDATA'] ?? join(home, 'AppData', 'Local'), 'Glenmark');
  if (platform === 'darwin') return join(home, 'Library', 'Application Support', 'Glenmark');
  return join(env['XDG_DATA_HOME'] ?? join(home, '.local', 'share'), 'glenmark');
}
