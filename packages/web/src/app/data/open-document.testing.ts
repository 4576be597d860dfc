import type { Problem, StoredDocument } from '@glenmark/contract';
import { type Observable, of, throwError } from 'rxjs';
import { ApiError } from './api';
import type { Beginning } from './beginning';
import { OpenDocument } from './open-document';
import type { UnsentEdit } from './unsent-edits';

export const stored = (revision: number, text: string): StoredDocument => ({
  kind: 'moveset',
  id: 'lock-keeper',
  name: 'Lock keeper',
  revision,
  updatedAt: '2026-01-01T00:00:00Z',
  text,
  hash: `hash of ${text}`,
  message: '',
});
export const failure = (status: number): ApiError =>
  new ApiError({ status, detail: `status ${status}` } as Problem);

/** A server that can be told to fail, and a browser that remembers what it was given to keep. */
export function setUp(beginning: Beginning = { stored: stored(1, 'first') }) {
  const server = {
    head: stored(1, 'first'),
    sent: [] as { revision: number; text: string; keepalive: boolean }[],
    reply: undefined as undefined | ((text: string) => Observable<StoredDocument>),
    read: () => of(server.head) as Observable<StoredDocument>,
  };
  const kept = new Map<string, UnsentEdit>();
  const document = new OpenDocument(
    {
      api: {
        read: () => server.read(),
        save: (base, { text }, options) => {
          server.sent.push({ revision: base.revision, text, keepalive: options?.keepalive ?? false });
          if (server.reply !== undefined) return server.reply(text);
          if (base.hash !== server.head.hash) return throwError(() => failure(412));
          return of((server.head = stored(base.revision + 1, text)));
        },
      },
      unsent: {
        keep: async (edit) => void kept.set(edit.id, edit),
        forget: async ({ id }) => void kept.delete(id),
      },
    },
    beginning,
  );
  const type = (text: string): void =>
    document.replace({ name: 'type', before: document.text(), after: text }, false);
  return { document, server, kept, type };
}
