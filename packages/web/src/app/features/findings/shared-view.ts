import type { Shared, WorkerState } from '@glenmark/contract';

/** What a course is called, by its id. */
type NameOf = (course: string) => string;

/** A line of the table of workers. */
export interface WorkerLine {
  name: string;
  /** What it is at, in words. */
  at: string;
  perSecond: string;
}

/** A line of the table of parts: what was searched of it, and what was found there. */
export interface PartLine {
  name: string;
  situations: string;
  found: string;
}

/** The workers that are there while a scouting runs, and their situations a second, of each and of all. */
export function workersShown(shared: Shared, nameOf: NameOf): { lines: WorkerLine[]; all: string } {
  const lines = shared.workers.map((worker) => ({
    name: worker.name,
    at: placeOf(worker, shared, nameOf),
    perSecond: whole(worker.perSecond),
  }));
  return { lines, all: whole(shared.workers.reduce((sum, { perSecond }) => sum + perSecond, 0)) };
}

/** What each part searched and found; the same may be found in several. */
export function partsShown(shared: Shared, nameOf: NameOf): PartLine[] {
  return shared.shards.map((shard) => ({
    name: partName(shard, shared, nameOf),
    situations: whole(shard.situations),
    found: whole(shard.found),
  }));
}

/** Who is there before anything runs, in a sentence. */
export function whoIsThere(workers: readonly WorkerState[]): string {
  const threads = workers.reduce((sum, worker) => sum + worker.threads, 0);
  if (workers.length === 0)
    return $localize`No worker is there: a scouting waits until one comes. "npm run worker" starts one.`;
  return workers.length === 1
    ? $localize`One worker is there, for ${threads} parts at a time.`
    : $localize`${workers.length} workers are there, for ${threads} parts at a time.`;
}

function placeOf(
  { shards, reports, busy }: Shared['workers'][number],
  shared: Shared,
  nameOf: NameOf,
): string {
  if (reports) return $localize`puts the report together`;
  const parts = shards.map((shard) => shared.shards[shard]).filter((part) => part !== undefined);
  if (parts.length > 0) return parts.map((part) => partName(part, shared, nameOf)).join(', ');
  return busy > 0 ? $localize`another scouting` : $localize`nothing`;
}

/** A part by its number, and by its course where there are several. */
const partName = (
  { course, part }: Pick<Shared['shards'][number], 'course' | 'part'>,
  { shards }: Shared,
  nameOf: NameOf,
): string =>
  shards.some((other) => other.course !== course) ? `${nameOf(course)} ${part + 1}` : String(part + 1);

const whole = (n: number): string => Math.round(n).toLocaleString('en');
