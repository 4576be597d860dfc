import { randomBytes } from 'node:crypto';
import * as z from 'zod';
import { digestOf, type SessionKeys } from './http/sessions.js';
import type { Store } from './store/store.js';

/** The setting that holds what access rests on. */
const SETTING = 'access';

/** `token` is the digest of the token that was made at the first start; null while there was no need of one. */
const schema = z.object({ secret: z.string(), generation: z.number().int(), token: z.string().nullable() });
type Kept = z.infer<typeof schema>;

const read = (value: string): Kept => schema.parse(JSON.parse(value));

/** Who may use a server, as its database has it: the same on all servers that share one. */
export interface AccessKeys {
  /** What sessions are signed with now; another server may have changed it a moment ago. */
  keys(): Promise<SessionKeys>;
  /** Ends all sessions, on all servers. */
  signOutEverywhere(): Promise<void>;
}

/**
 * Prepares access with a token that is given, or with `make`: then the token is made once, when the data is served
 * for the first time, and only its digest is kept. Gives that new token, to be told once.
 */
export async function openAccess(
  store: Store,
  token: string,
): Promise<{ access: AccessKeys; made: string | undefined }> {
  const fresh = token === 'make' ? randomBytes(18).toString('base64url') : undefined;
  const kept = read(
    await store.changeSetting(SETTING, (value) => {
      const now =
        value === undefined
          ? { secret: randomBytes(32).toString('base64url'), generation: 0, token: null }
          : read(value);
      return JSON.stringify(
        fresh === undefined || now.token !== null ? now : { ...now, token: digestOf(fresh) },
      );
    }),
  );
  const digest = fresh === undefined ? digestOf(token) : kept.token!;
  return {
    made: fresh !== undefined && digestOf(fresh) === digest ? fresh : undefined,
    access: {
      async keys() {
        const { secret, generation } = read((await store.setting(SETTING))!);
        return { secret, generation, token: digest };
      },
      async signOutEverywhere() {
        await store.changeSetting(SETTING, (value) => {
          const now = read(value!);
          return JSON.stringify({ ...now, generation: now.generation + 1 });
        });
      },
    },
  };
}
