import { PassThrough } from 'node:stream';
import type { Context } from 'koa';
import { ProblemError } from '../problem.js';

/** Event streams that may be open at the same time. */
const MAX_STREAMS = 200;
/** A stream whose reader takes nothing for so long is closed (ms). */
const STALLED = 30_000;
/** How often a line is sent that only keeps the connection open (ms). */
const HEARTBEAT = 15_000;

/** What a stream follows: `next` gets each state, `end` the last one. Gives what ends the subscription. */
export type Subscribe<T> = (next: (state: T) => void, end: () => void) => () => void;

let open = 0;

/**
 * Sends states as server-sent events (WHATWG HTML, 9.2). Each is the whole of what it tells, so that a slow reader is sent
 * only the newest; one that reads nothing at all is let go.
 */
export function sendEvents<T>(ctx: Context, subscribe: Subscribe<T>): PassThrough {
  if (open >= MAX_STREAMS)
    throw new ProblemError(
      503,
      `There are ${MAX_STREAMS} event streams already; close some, or ask again later.`,
    );
  // Each event goes out as it is made: nothing may wait for more of them to compress.
  ctx.compress = false;
  ctx.req.socket.setTimeout(0);
  const body = new PassThrough();
  let newest: T | undefined;
  let isFull = false;
  let isOver = false;
  let stalled: NodeJS.Timeout | undefined;

  const write = (text: string): void => {
    if (body.write(text)) return;
    isFull = true;
    stalled = setTimeout(() => ctx.res.destroy(), STALLED);
  };
  const send = (): void => {
    if (newest !== undefined && !isFull) {
      const state = newest;
      newest = undefined;
      write(`data: ${JSON.stringify(state)}\n\n`);
    }
    if (isOver && newest === undefined) body.end();
  };
  body.on('drain', () => {
    clearTimeout(stalled);
    isFull = false;
    send();
  });
  open++;
  write('retry: 1000\n\n');
  const heartbeat = setInterval(() => {
    if (!isFull) write(':\n\n');
  }, HEARTBEAT);
  const unsubscribe = subscribe(
    (state) => {
      newest = state;
      send();
    },
    () => {
      isOver = true;
      send();
    },
  );
  ctx.res.once('close', () => {
    open--;
    clearInterval(heartbeat);
    clearTimeout(stalled);
    unsubscribe();
    body.destroy();
  });
  return body;
}
