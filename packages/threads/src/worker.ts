import { parentPort, workerData } from 'node:worker_threads';
import { createFast, readMoveset } from '@glenmark/core/machine';
import { createArena, createExpander, SLOTS } from '@glenmark/core/scout';
import { buildWorld, readCourse } from '@glenmark/core/world';
import { createClaims } from './claims.js';
import type { Beginning, Reply, Work } from './share.js';

const { moveset, courses, buffers, claims: shared, id } = workerData as Beginning;
const { machine } = readMoveset(moveset);
if (machine === undefined || parentPort === null)
  throw new Error('a scouting worker needs a moveset that loads');
const port = parentPort;
const claims = createClaims(shared);
const expanders = courses.map((text, i) => {
  const { course } = readCourse(text);
  if (course === undefined) throw new Error('a scouting worker needs courses that load');
  const fast = createFast(machine, buildWorld(course, machine.stances, machine.casts));
  return createExpander(fast, createArena(fast, SLOTS, buffers[i]));
});

port.on('message', ({ course, slots, goals, turn }: Work) => {
  const expander = expanders[course]!;
  const reply: Reply = [];
  for (
    let task = claims.next(turn, slots.length, id);
    task >= 0;
    task = claims.next(turn, slots.length, id)
  ) {
    const slot = slots[task]!;
    const { events, distances } = expander.expand(slot, goals);
    if (events.length + distances.length > 0) reply.push({ slot, events, distances });
  }
  port.postMessage(reply);
});
