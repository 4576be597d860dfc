import { PassThrough } from 'node:stream';
import type { Context } from 'koa';
import { ProblemError } from '../problem.js';
import { stillMay } from './access.js';

/** Event streams that may be open at the same time. */
const MAX_STREAMS = 200;
/** A stream whose reader takes nothing for so long is closed (ms). */
const STALLED = 30_000;
/** How often a line is sent that only keeps the connection open (ms). */
const HEARTBEAT = 15_000;

/** What a stream of states follows: `next` gets each, `end` the last one. Gives what ends the subscription. */
export type Subscribe<T> = (next: (state: T) => void, end: () => void) => Promise<() => void>;

let open = 0;

/** A stream of server-sent events (WHATWG HTML, 9.2) to a reader who may be slow. */
interface Stream {
  body: PassThrough;
  /** Whether the reader takes nothing at the moment. */
  isFull(): boolean;
  write(text: string): void;
  end(): void;
}

/** Opens a stream; `goesOn` is told when its reader takes something again, `closed` when it is gone. */
function openStream(ctx: Context, goesOn: () => void, closed: () => void): Stream {
  if (open >= MAX_STREAMS)
    throw new ProblemError(
      503,
      `There are ${MAX_STREAMS} event streams already; close some, or ask again later.`,
    );
  // Each event goes out as it is made: nothing may wait for more of them to compress.
  ctx.compress = false;
  ctx.req.socket.setTimeout(0);
  const body = new PassThrough();
  let isFull = false;
  let stalled: NodeJS.Timeout | undefined;
  const write = (text: string): void => {
    if (body.write(text)) return;
    isFull = true;
    stalled ??= setTimeout(() => ctx.res.destroy(), STALLED);
  };
  body.on('drain', () => {
    clearTimeout(stalled);
    stalled = undefined;
    isFull = false;
    goesOn();
  });
  open++;
  write('retry: 1000\n\n');
  const heartbeat = setInterval(() => {
    if (!isFull) write(':\n\n');
    // Whoever was signed out meanwhile is told nothing more. A database that is away for a moment signs nobody out.
    stillMay(ctx).then(
      (may) => may || ctx.res.destroy(),
      () => undefined,
    );
  }, HEARTBEAT);
  ctx.res.once('close', () => {
    open--;
    clearInterval(heartbeat);
    clearTimeout(stalled);
    closed();
    body.destroy();
  });
  return { body, isFull: () => isFull, write, end: () => body.end() };
}

/** Sends states, each the whole of what it tells, so that a slow reader is sent only the newest. */
export function sendStates<T>(ctx: Context, subscribe: Subscribe<T>): PassThrough {
  let newest: T | undefined;
  let isOver = false;
  const stream = openStream(
    ctx,
    () => send(),
    () => void subscribed.then((unsubscribe) => unsubscribe()),
  );
  const send = (): void => {
    if (newest !== undefined && !stream.isFull()) {
      const state = newest;
      newest = undefined;
      stream.write(`data: ${JSON.stringify(state)}\n\n`);
    }
    if (isOver && newest === undefined) stream.end();
  };
  const end = (): void => {
    isOver = true;
    send();
  };
  const subscribed = subscribe((state) => {
    newest = state;
    send();
  }, end).catch(() => {
    // It is gone, or the database is away: whoever follows asks again.
    end();
    return () => undefined;
  });
  return stream.body;
}

/** Something that happened, by the number from which a reader who was away goes on. */
export interface Numbered {
  number: number;
}

/** Most happenings that wait for a slow reader; past that it is let go, and asks again from where it was. */
const MAX_WAITING = 1000;

/**
 * Sends all that happens, in its order, to one who was last told of `after`. What was forgotten meanwhile is told as an event
 * `anew`: everything may be other than before.
 */
export function sendHappenings<T extends Numbered>(
  ctx: Context,
  follow: (next: (happening: T) => void, anew: (number: number) => void) => () => void,
): PassThrough {
  const waiting: string[] = [];
  const stream = openStream(
    ctx,
    () => send(),
    () => leave(),
  );
  const send = (): void => {
    while (!stream.isFull()) {
      const next = waiting.shift();
      if (next === undefined) return;
      stream.write(next);
    }
  };
  const put = (text: string): void => {
    waiting.push(text);
    if (waiting.length > MAX_WAITING) ctx.res.destroy();
    else send();
  };
  const leave = follow(
    ({ number, ...rest }) => put(`id: ${number}\ndata: ${JSON.stringify(rest)}\n\n`),
    (number) => put(`id: ${number}\nevent: anew\ndata: {}\n\n`),
  );
  return stream.body;
}
