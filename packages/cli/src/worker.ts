import { availableParallelism } from 'node:os';
import pino from 'pino';
import { UnreadableError } from './load.js';

export interface WorkerCommand {
  database?: string;
  threads?: number;
}

/** `glenmark worker`: takes part in the scoutings of a team's server until it is told to end. */
export async function worker(
  { database, threads = availableParallelism() }: WorkerCommand,
  { say, until }: { say: (text: string) => void; until: Promise<void> },
): Promise<{ output: string; exitCode: number }> {
  const { placeWords, readConfig, runWorker } = await import('@glenmark/server');
  const started = async () => {
    const env = { ...process.env, ...(database === undefined ? {} : { DATABASE_URL: database }) };
    const { place } = readConfig(env);
    if (!('url' in place))
      throw new UnreadableError([
        'A worker needs the database that servers share: give --database, or set DATABASE_URL.',
      ]);
    const log = pino({ level: process.env['LOG_LEVEL'] || 'warn' });
    return { running: await runWorker({ url: place.url, threads, log }), place };
  };
  const { running, place } = await started().catch((error: Error) => {
    if (error instanceof UnreadableError) throw error;
    throw new UnreadableError([
      `The database cannot be used (${error.message}); give --database, or set DATABASE_URL, to one that can.`,
    ]);
  });
  const words = threads === 1 ? 'one thread' : `${threads} threads`;
  say(`The worker ${running.name} is there with ${words}, for ${placeWords(place)}.`);
  await until;
  await running.stop();
  return { output: 'It handed back what it was at.', exitCode: 0 };
}
