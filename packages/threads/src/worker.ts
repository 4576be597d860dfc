import { parentPort, workerData } from 'node:worker_threads';
import { lower, readMoveset } from '@glenmark/core/machine';
import { createArena, createExpander, SLOTS } from '@glenmark/core/scout';
import { buildWorld, readCourse } from '@glenmark/core/world';
import type { Beginning, Reply, Share } from './share.js';

const { moveset, courses, buffers } = workerData as Beginning;
const { machine } = readMoveset(moveset);
if (machine === undefined || parentPort === null)
  throw new Error('a scouting worker needs a moveset that loads');
const port = parentPort;
const expanders = courses.map((text, i) => {
  const { course } = readCourse(text);
  if (course === undefined) throw new Error('a scouting worker needs courses that load');
  const fast = lower(machine, buildWorld(course, machine.stances, machine.casts));
  return createExpander(fast, createArena(fast, SLOTS, buffers[i]));
});

port.on('message', ({ course, tasks, goals, guided }: Share) => {
  const expander = expanders[course]!;
  const reply: Reply = [];
  for (const { slot, seed } of tasks)
    expander.expand(slot, seed, goals, guided).forEach(({ events, distances }, move) => {
      if (events.length + distances.length > 0) reply.push({ slot, move, events, distances });
    });
  port.postMessage(reply);
});
