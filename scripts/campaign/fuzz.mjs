// (e) Guards, effects, quantities and documents that nobody would write, through reading, compiling and checking.
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { proveAll } from '../../packages/core/dist/findings/index.js';
import { readMoveset, scopeOf } from '../../packages/core/dist/machine/index.js';
import { checkText, parseEffect } from '../../packages/core/dist/notation/index.js';
import { readTape } from '../../packages/core/dist/run/index.js';
import { readCourse } from '../../packages/core/dist/world/index.js';
import { root } from '../build.mjs';
import { randomFrom } from './server.mjs';

const ODD = [
  '',
  ' ',
  '(',
  ')',
  ',',
  '..',
  '-',
  '1e308',
  '1e-320',
  '0',
  '-0',
  '9'.repeat(400),
  'm/s',
  'm',
  'deg',
  '\u00e9',
  '\u{1F3ED}',
  '"',
  "'",
  '\t',
  ':=',
  '+=',
  'not',
  'if',
  'then',
  'else',
  'for',
  'within',
  'and',
  'or',
  '__proto__',
  'constructor',
  'NaN',
  'Infinity',
  '\u2028',
];

/** Texts made of pieces of good ones and of pieces that are odd. */
function mutator(random, samples) {
  const pieces = samples.flatMap((text) => text.match(/[A-Za-z_]\w*|[\d.]+|\s+|[^\s\w]/g) ?? []);
  const piece = () => (random.below(4) === 0 ? random.pick(ODD) : random.pick(pieces));
  return (text) => {
    const parts = text.match(/[A-Za-z_]\w*|[\d.]+|\s+|[^\s\w]/g) ?? [];
    for (let edits = 1 + random.below(4); edits > 0; edits--) {
      const at = random.below(parts.length + 1);
      const kind = random.below(4);
      if (kind === 0) parts.splice(at, 1);
      else if (kind === 1) parts.splice(at, 0, piece());
      else if (kind === 2) parts.splice(at, 1, piece());
      else parts.splice(at, 0, ...parts.slice(random.below(parts.length + 1)).slice(0, 6));
    }
    return parts.join('');
  };
}

const quoted = (text) =>
  [...text.matchAll(/(?:when|do|to|enter|each|refill|runs|value|vy|vx): *"?([^,}\n"]+)/g)].map((m) => m[1]);

export async function fuzzing({ texts, documents, seed = 1 }) {
  const random = randomFrom(seed);
  const files = ['', 'mechanics'].flatMap((folder) =>
    readdirSync(join(root, 'examples', folder))
      .filter((f) => f.endsWith('.yaml'))
      .map((f) => readFileSync(join(root, 'examples', folder, f), 'utf8')),
  );
  const movesets = files.filter((t) => /^kind: moveset/m.test(t));
  const { machine } = readMoveset(movesets.find((t) => /^name: Courier$/m.test(t)));
  const scope = scopeOf(machine);
  const notation = movesets.flatMap(quoted);
  const mutate = mutator(random, notation);
  const figures = { texts, documents, accepted: 0, crashed: 0, slowest: 0 };
  const wrong = (what, text, error) => {
    figures.crashed++;
    if (figures.crashed <= 5)
      process.stderr.write(`${what}: ${error}\n${JSON.stringify(text).slice(0, 300)}\n`);
  };
  for (let i = 0; i < texts; i++) {
    const text = mutate(random.pick(notation));
    try {
      if (i % 3 === 0) parseEffect(text);
      else if (checkText(text, scope).faults.length === 0) figures.accepted++;
    } catch (error) {
      wrong('a text', text, error);
    }
  }
  const mutateFile = mutator(random, files);
  for (let i = 0; i < documents; i++) {
    const base = random.pick(files);
    // Half of them only in their notation, so that they get past the shape.
    const text =
      i % 2 === 0 ? mutateFile(base) : base.replace(random.pick(quoted(base).concat('zz')), (t) => mutate(t));
    const began = performance.now();
    try {
      const { machine: made } = readMoveset(text);
      readCourse(text);
      readTape(text);
      if (made !== undefined && i % 10 === 1) proveAll(made, { product: 2000, situations: 2000 });
      if (made !== undefined) figures.accepted++;
    } catch (error) {
      wrong('a document', text, error);
    }
    figures.slowest = Math.max(figures.slowest, Math.round(performance.now() - began));
  }
  return { ...figures, slowest: `${figures.slowest} ms` };
}
