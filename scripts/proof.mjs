// `npm run proof`: breaks sound movesets as practitioners do and prints what was found of it. `--small` is the part
// that runs in `npm test`; it fails when something is missed without a word, or proved or witnessed wrongly.
import { readFileSync } from 'node:fs';
import { parse, stringify } from 'yaml';
import { merged, proveAll, scoutAll } from '../packages/core/dist/findings/index.js';
import { createFast, place, readMoveset, startFast, step } from '../packages/core/dist/machine/index.js';
import { fastDigest } from '../packages/core/dist/run/index.js';
import { createRandom } from '../packages/core/dist/scout/index.js';
import { buildWorld, readCourse } from '../packages/core/dist/world/index.js';
import { join } from 'node:path';
import { root } from './build.mjs';
import { OPERATORS } from './proof/operators.mjs';
import { soundMoveset } from './proof/sound.mjs';

const isSmall = process.argv.includes('--small');
const example = (file) => readFileSync(join(root, 'examples', file), 'utf8');
const course = (file) => readCourse(example(file)).course;
const gym = course('mechanics/gym.yaml');
const SUBJECTS = [
  ...(isSmall ? [31] : [3, 9, 22, 31]).map((bits) => ({ doc: soundMoveset(bits), course: gym })),
  ...(isSmall ? [] : [{ doc: parse(example('courier.yaml')), course: course('mill-yard.yaml') }]),
];
/** Mutants of one operator on one moveset, evenly drawn from all that it can make. */
const MAX_MUTANTS = isSmall ? 1 : 4;
const SITUATIONS = isSmall ? 6_000 : 40_000;
const SEED = 7;

/** What random play sees of a machine: an oracle that knows nothing of guards. */
function randomPlay(machine, on, rounds) {
  const fast = createFast(machine, buildWorld(on, machine.stances, machine.casts));
  const seen = {
    entered: new Set(),
    left: new Set(),
    taken: new Set(),
    crossings: new Set(),
    ties: new Set(),
  };
  const random = createRandom(SEED);
  const names = (index) => machine.states[index].name;
  machine.lanes.forEach((lane) => {
    let leaf = lane.initial;
    while (machine.states[leaf].members.length > 0) leaf = machine.states[leaf].initial;
    seen.entered.add(names(leaf));
  });
  for (let round = 0; round < rounds; round++) {
    const s = startFast(fast, on.spawns[round % on.spawns.length]);
    const input = machine.controls.map(() => 0);
    for (let t = 0; t < 600; t++) {
      if (random(8) === 0) {
        const c = random(machine.controls.length);
        input[c] = machine.controls[c].kind === 'button' ? random(2) : random(3) - 1;
      }
      step(
        fast,
        s,
        machine.controls.map((c, i) =>
          c.kind === 'button' && c.keys.length + c.pad.length === 0 ? 0 : input[i],
        ),
      );
      for (let i = 0; i < 4 * fast.takenCount; i += 4) {
        const [lane, crossing, from, to] = fast.taken.slice(i, i + 4);
        seen.entered.add(names(to));
        if (from !== to) seen.left.add(names(from));
        seen.taken.add(`${machine.lanes[lane].name} ${crossing}`);
        seen.crossings.add(crossingName(machine, lane, crossing));
      }
      if (fast.tiedCount > 0) seen.ties.add(`${names(s[fast.layout.leaves + fast.tied[0]])}`);
      if (s[place.Y] < on.bounds.minY - 20) break;
    }
  }
  return seen;
}

/** A crossing by the states it joins, and which of those that join them: the same in a mutant that lost another. */
function crossingName(machine, lane, index) {
  const ends = (c) => `${c.from.map((s) => machine.states[s].name)} > ${machine.states[c.to].name}`;
  const { crossings } = machine.lanes[lane];
  const own = ends(crossings[index]);
  return `${own} #${crossings.slice(0, index).filter((c) => ends(c) === own).length}`;
}

const allCrossings = (machine) =>
  new Set(
    machine.lanes.flatMap((lane) => lane.crossings.map((c) => crossingName(machine, lane.index, c.index))),
  );

/** Digests of a few random runs: two movesets with the same ones behave the same. */
function behaviour(machine, on) {
  const world = buildWorld(on, machine.stances, machine.casts);
  const random = createRandom(SEED + 1);
  return Array.from({ length: 24 }, (_, i) => {
    const input = machine.controls.map(() => 0);
    const inputs = Array.from({ length: 500 }, () => {
      if (random(7) === 0) {
        const c = random(machine.controls.length);
        input[c] = machine.controls[c].kind === 'button' ? random(2) : random(3) - 1;
      }
      return machine.controls.map((c, k) =>
        c.kind === 'button' && c.keys.length + c.pad.length === 0 ? 0 : input[k],
      );
    });
    return fastDigest(machine, world, on.spawns[i % on.spawns.length], inputs);
  }).join();
}

async function findings(machine, on) {
  const proved = proveAll(machine);
  const options = { seed: SEED, situations: SITUATIONS };
  const scouting = await scoutAll(machine, [on], proved, options);
  return { list: merged(proved.findings, scouting.findings), coverage: scouting.coverage };
}

/**
 * What a mutant breaks, as random play sees it beside the sound one. What random play only missed is not broken: a
 * state that the scouting entered, or a crossing that it took, has happened.
 */
function faults(machine, sound, mutant, coverage) {
  const crossings = allCrossings(machine);
  const states = new Set(coverage.states.map((s) => s.state));
  const taken = new Set(
    coverage.crossings.map(({ lane, index }) =>
      crossingName(
        machine,
        machine.lanes.findIndex((l) => l.name === lane),
        index,
      ),
    ),
  );
  const gone = [...sound.entered].filter((s) => !mutant.entered.has(s) && !states.has(s));
  const stuck = [...sound.left].filter((s) => mutant.entered.has(s) && !mutant.left.has(s));
  const ties = [...mutant.ties].filter((s) => !sound.ties.has(s));
  const dead = [...sound.crossings].filter(
    (c) => crossings.has(c) && !mutant.crossings.has(c) && !taken.has(c),
  );
  return { gone, stuck, ties, dead };
}

/** Findings that random play contradicts. */
const wrong = (machine, list, seen) =>
  list.filter((f) => {
    if (f.certainty !== 'proved') return false;
    if (/^IN[123]$/.test(f.code)) return seen.entered.has(f.state);
    if (/^OUT[12]$/.test(f.code)) return seen.left.has(f.state);
    return f.code === 'IN5' && seen.taken.has(`${f.lane} ${f.crossing.index}`);
  });

const table = Object.fromEntries(
  Object.keys(OPERATORS).map((name) => [
    name,
    { mutants: 0, equivalent: 0, harmless: 0, told: 0, found: 0, suspected: 0, missed: 0 },
  ]),
);
const missed = [];
const alarms = [];
for (const { doc, course: on } of SUBJECTS) {
  const load = (d) => readMoveset(stringify(d)).machine;
  const sound = load(doc);
  if (sound === undefined) throw new Error(`${doc.name} does not load`);
  const { list: own } = await findings(sound, on);
  for (const f of own) if (f.certainty !== 'suspected') alarms.push(`${doc.name}: ${f.code} ${f.sentence}`);
  const before = new Set(own.map((f) => f.fingerprint));
  const rounds = isSmall ? 40 : 200;
  const soundSeen = randomPlay(sound, on, rounds);
  const soundBehaviour = behaviour(sound, on);
  for (const [name, operator] of Object.entries(OPERATORS)) {
    const all = operator(doc);
    const chosen = all.filter(
      (_, i) =>
        Math.floor((i * MAX_MUTANTS) / all.length) !== Math.floor(((i - 1) * MAX_MUTANTS) / all.length),
    );
    for (const { what, doc: mutated } of chosen) {
      const machine = load(mutated);
      if (machine === undefined) continue;
      const row = table[name];
      row.mutants++;
      const seen = randomPlay(machine, on, rounds);
      const { list, coverage } = await findings(machine, on);
      for (const f of wrong(machine, list, seen))
        alarms.push(`${doc.name}, ${what}: ${f.code} ${f.sentence}`);
      const broken = faults(machine, soundSeen, seen, coverage);
      const isBroken = Object.values(broken).some((list) => list.length > 0);
      const fresh = list.filter((f) => !before.has(f.fingerprint));
      const sure = fresh.filter((f) => f.certainty !== 'suspected');
      if (isBroken) {
        if (sure.length > 0) row.found++;
        else if (fresh.length > 0) row.suspected++;
        else {
          row.missed++;
          missed.push(`${name}: ${doc.name}, ${what}: ${JSON.stringify(broken)}`);
        }
      } else if (behaviour(machine, on) === soundBehaviour) row.equivalent++;
      else if (sure.length > 0) row.told++;
      else row.harmless++;
    }
  }
}
const heads = ['operator', 'mutants', 'equivalent', 'harmless', 'told', 'found', 'suspected', 'missed'];
const rows = Object.entries(table).map(([name, r]) => [name, ...heads.slice(1).map((h) => r[h])]);
const total = ['all', ...heads.slice(1).map((_, i) => rows.reduce((n, r) => n + r[i + 1], 0))];
for (const row of [heads, ...rows, total])
  console.log(row.map((cell, i) => (i === 0 ? String(cell).padEnd(42) : String(cell).padStart(11))).join(''));
console.log('');
console.log(
  'equivalent: the same runs, bit for bit. harmless: other runs, but every state that was entered, left or free of ties still is, and every crossing taken.',
);
console.log(
  'told: harmless by random play, and yet something is proved or witnessed of it that is not of the sound one.',
);
console.log('found: proved or witnessed. suspected: told with how near the scouting came.');
console.log(`\nfalse alarms, proved or witnessed: ${alarms.length}`);
for (const line of alarms) console.log(`  ${line}`);
console.log(`missed: ${missed.length}`);
for (const line of missed) console.log(`  ${line}`);
if (alarms.length + missed.length > 0) process.exitCode = 1;
