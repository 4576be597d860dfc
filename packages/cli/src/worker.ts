import { parentPort, workerData } from 'node:worker_threads';
import { buildWorld, createExpander, lower, readCourse, readMoveset } from '@glenmark/core';
import type { Share } from './pool.js';

const { moveset, courses } = workerData as { moveset: string; courses: string[] };
const { machine } = readMoveset(moveset);
if (machine === undefined || parentPort === null)
  throw new Error('a scouting worker needs a moveset that loads');
const port = parentPort;
const expanders = courses.map((text) => {
  const { course } = readCourse(text);
  if (course === undefined) throw new Error('a scouting worker needs courses that load');
  return createExpander(lower(machine, buildWorld(course, machine.stances, machine.casts)));
});

port.on('message', ({ course, tasks, goals }: Share) => {
  const expander = expanders[course]!;
  port.postMessage(tasks.map(({ situation, seed }, i) => expander.expand(i, situation, seed, goals)));
});
