import type { TapeOnCourse } from '@glenmark/core/findings';
import { readTape } from '@glenmark/core/run';
import { readCourse } from '@glenmark/core/world';
import { sample } from '../helpers.js';

export const courseAt = (file: string): TapeOnCourse['course'] => readCourse(sample(file)).course!;
export const tapeAt = (file: string): TapeOnCourse['tape'] => readTape(sample(file)).tape!;
export const on = (course: string, ...tapes: string[]): TapeOnCourse[] =>
  tapes.map((tape) => ({ tape: tapeAt(tape), course: courseAt(course) }));

export const MARRAM = on(
  'tide-mill.yaml',
  'shaft-climb.yaml',
  'winch-swing.yaml',
  'draught-ride.yaml',
  'ferry-crossing.yaml',
);
export const COURIER = on('mill-yard.yaml', 'culvert-slide.yaml', 'yard-crossing.yaml', 'parasol-glide.yaml');

export const FULL_HOP = readTape(
  'glenmark: 1\nkind: tape\nname: Full hop\nmoveset: courier\ncourse: mill-yard\nspawn: gate\nticks: 90\ninputs: { hop: ["10 for 60"] }\n',
).tape!;
