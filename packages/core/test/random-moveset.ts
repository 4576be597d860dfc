import fc from 'fast-check';

/** A random moveset, course and inputs, as text and numbers: everything that a tick can do, in small. */
export interface RandomCase {
  moveset: string;
  course: string;
  inputs: number[][];
}

const TRUTHS = [
  'pressed(hop)',
  'held(hop)',
  'released(dash)',
  'pressed(dash) within 0.1 s',
  'pressed(hop) within 4 ticks',
  'held(dash) for 3 ticks',
  'grounded',
  'not grounded for 0.05 s',
  'airborne',
  'rising',
  'falling',
  'steep',
  'ceiling',
  'cramped',
  'crushed',
  'wall != 0',
  'pushing',
  'downhill',
  'uphill',
  'probe(brow)',
  'distance(toe) < 0.2 m',
  'angle(toe) > 10 deg',
  'hits(brow, moss)',
  'fits(tall)',
  'not fits(low)',
  'flag',
  'spare > 0',
  'speed > 2 m/s',
  'vx < -1 m/s',
  'vy <= 0 m/s',
  'height > 0.3 m',
  'slope > 5 deg',
  'airtime >= 0.1 s',
  'elapsed >= 0.1 s',
  'elapsed < 6 ticks',
  'running(clock)',
  'done(clock)',
  'left(clock) < 0.1 s',
  'ready(cool)',
  'charges(slow) >= 1',
  'unlocked(skill)',
  'in(S1)',
  'in(G)',
  'event(ring)',
  'inside(draught)',
  'axis(move) != 0',
  'facing > 0',
  'tethers > 0',
  'tetherLength > 1 m',
  'catches(line)',
  'aimy(look) > 0',
  'heat >= 1 m/s',
  'clamp(vx, -2 m/s, 2 m/s) > 1 m/s',
  'max(abs(vx), abs(vy)) > lerp(1 m/s, 5 m/s, 0.5)',
  '(if flag then vx else vy) > 0.5 m/s',
  '(grounded or pressed(hop)) within 3 ticks',
  'not pressed(hop) within 4 ticks',
  '(pressed(hop) or pressed(dash)) within 5 ticks',
  'grounded or pressed(hop) within 6 ticks',
  'flag for 2 ticks',
  'spare = 0 for 3 ticks',
  'not flag within 2 ticks',
  'running(clock) for 2 ticks',
  'vx + 0.1 m/s >= 5.1 m/s',
  'vx - heat < 0.3 m/s',
];
const SPEEDS = [
  'axis(move) * 5 m/s',
  'facing * 7 m/s',
  '0 m/s',
  'vx * 0.5',
  'approach(vx, 3 m/s, 0.4 m/s)',
  '-3 m/s',
  'min(heat, 4 m/s)',
  'if flag then 6 m/s else -2 m/s',
  'sign(vx) * sqrt(vx * vx + vy * vy)',
  'aimx(look) * 9 m/s',
];
const EFFECTS = [
  'vy := 8 m/s',
  'vy += 2 m/s',
  'vx := facing * 6 m/s',
  'vx -= 1 m/s',
  'flag := true',
  'flag := not flag',
  'spare += 1',
  'spare := 2',
  'spend spare',
  'refill spare',
  'heat += 0.3 m/s',
  'heat := speed',
  'start clock',
  'stop clock',
  'spend cool',
  'refill cool',
  'spend slow',
  'face left',
  'face turn',
  'face move',
  'face away',
  'lock skill',
  'unlock skill',
  'raise ring',
  'cast line',
  'cast reel',
  'release line',
  'drop through',
];
const MOTIONS = [
  'drive: { to: SPEED, gain: 40 m/s2 }',
  'drive: { to: SPEED, gain: 30 m/s2, brake: 60 m/s2, turn: 90 m/s2, carry: { above: 0.5 m/s, fade: 5 m/s2, slope: 1.5 } }',
  'drive: { to: SPEED, instant: true }',
  'gravity: 0.5',
  'gravity: { rising: 1, falling: 1.5, cut: { scale: 2, when: TRUTH }, terminal: 9 m/s }',
  'hold: { vx: SPEED, vy: 0 m/s }',
  'hold: { vy: SPEED }',
  'push: { x: 3 m/s2, y: 20 m/s2 }',
  'push: { downhill: 25 m/s2 }',
  'drag: 2 1/s',
  'ground: { walkable: 35 deg, snap: 0.2 m, step: 0.3 m, slip: 8 m/s2 }',
  'ground: { step: 0.35 m }',
  'ground: { snap: 20 deg, inherit: true }',
  'push: { y: 30 m/s2 }',
  'tether: { reel: 6 m/s }',
  'tether: { climb: axis(move) * 2 m/s, sideways: 30 deg }',
  'tether: { sideways: 1 m }',
];

const one = (list: readonly string[]): fc.Arbitrary<string> => fc.constantFrom(...list);
const truth = fc.oneof(
  { weight: 3, arbitrary: one(TRUTHS) },
  {
    weight: 2,
    arbitrary: fc
      .tuple(one(TRUTHS), fc.constantFrom('and', 'or'), one(TRUTHS))
      .map((t) => `(${t.join(' ')})`),
  },
  { weight: 1, arbitrary: one(TRUTHS).map((t) => `not (${t})`) },
);
const filled = (list: readonly string[]): fc.Arbitrary<string> =>
  fc
    .tuple(one(list), one(SPEEDS), truth)
    .map(([m, speed, t]) => m.replace('SPEED', JSON.stringify(speed)).replace('TRUTH', JSON.stringify(t)));
const effects = fc.array(one(EFFECTS), { maxLength: 3 }).map((e) => JSON.stringify(e));
const motion = fc
  .uniqueArray(filled(MOTIONS), { maxLength: 4, selector: (m) => m.slice(0, m.indexOf(':')) })
  .map((fields) => `{ ${fields.join(', ')} }`);

const state = fc.record({
  stance: fc.constantFrom('tall', 'low', 'wide', 'ball', undefined),
  motion,
  enter: effects,
  exit: effects,
  each: fc.oneof(fc.constant('[]'), effects),
  passing: fc.boolean().map((b) => b),
  wait: fc.boolean(),
  skilled: fc.nat(5).map((n) => n === 0),
});
type State = typeof state extends fc.Arbitrary<infer T> ? T : never;

const stateText = (s: State, isPassing: boolean): string =>
  `{ ${[
    ...(s.stance === undefined ? [] : [`stance: ${s.stance}`]),
    ...(s.wait ? ['ifBlocked: wait'] : []),
    ...(s.skilled ? ['ability: skill'] : []),
    ...(isPassing ? ['passing: true'] : []),
    `motion: ${s.motion}`,
    `enter: ${s.enter}`,
    `exit: ${s.exit}`,
    `each: ${s.each}`,
  ].join(', ')} }`;

const crossing = fc.record({
  from: fc.nat(5),
  to: fc.nat(4),
  when: truth,
  rank: fc.nat(2),
  do: effects,
  skilled: fc.nat(6).map((n) => n === 0),
  reenter: fc.boolean(),
});

/** One lane of four states, two of them in a group; names are told apart by the lane's number. */
const lane = fc.record({
  states: fc.tuple(state, state, state, state),
  group: state,
  resume: fc.boolean(),
  crossings: fc.array(crossing, { minLength: 2, maxLength: 8 }),
  yields: fc.subarray(['vx', 'vy', 'gravity', 'facing', 'stance']),
});
type Lane = typeof lane extends fc.Arbitrary<infer T> ? T : never;

function laneText(l: Lane, index: number): string {
  const suffix = index === 0 ? '' : `_${index}`;
  // An event exists only where some effect raises it.
  const ringing = { ...l.states[0], exit: '[raise ring]' };
  const names = ['S0', 'S1', 'S2', 'S3', 'G', '*'].map((n) => (n === '*' ? n : n + suffix));
  const crossings = l.crossings.map(
    (c) =>
      `      - { from: "${names[c.from]}", to: ${names[c.to]}, when: ${JSON.stringify(c.when)}, rank: ${c.rank}, do: ${c.do}${c.skilled ? ', ability: skill' : ''}${c.reenter ? ', reenter: true' : ''} }`,
  );
  return `  - name: lane${index}
    yields: [${l.yields.join(', ')}]
    initial: ${names[0]}
    states:
      ${names[0]}: ${stateText(ringing, false)}
      ${names[1]}: ${stateText(l.states[1], l.states[1].passing)}
      ${names[4]}:
        motion: ${l.group.motion}
        enter: ${l.group.enter}
        exit: ${l.group.exit}
        initial: ${names[2]}
${l.resume ? '        resume: last\n' : ''}        states:
          ${names[2]}: ${stateText(l.states[2], false)}
          ${names[3]}: ${stateText(l.states[3], l.states[3].passing)}
    crossings:
${crossings.join('\n')}`;
}

const refill = truth.filter((t) => !t.includes('elapsed')).map((t) => JSON.stringify(t));
const head = fc.record({
  lanes: fc.array(lane, { minLength: 1, maxLength: 3 }),
  refill,
  reset: refill,
  runs: refill,
  again: fc.constantFrom('restart', 'ignore', 'extend'),
  order: fc.constantFrom('oneByOne', 'together'),
  from: fc.constantFrom('spend', 'exit'),
  cool: refill,
  anchor: fc.constantFrom('feet', 'middle', 'head'),
  blend: fc.constantFrom('', ', blend: 0.08 s'),
  shape: fc.constantFrom('capsule', 'box'),
  above: fc.nat(5).map((n) => n === 0),
  integration: fc.constantFrom('semi-implicit', 'semi-implicit', 'explicit', 'trapezoid'),
});

const movesetText = head.map((h) =>
  `glenmark: 1
kind: moveset
name: Random
${h.above ? 'plane: above' : 'gravity: 25 m/s2'}
integration: ${h.integration}
controls:
  move: { axis: { negative: [KeyA], positive: [KeyD] } }
  hop: { button: [Space] }
  dash: { button: [KeyF] }
  look: { aim: pointer }
body:
  stances:
    tall: { shape: ${h.shape}, width: 0.7 m, height: 1.7 m, anchor: ${h.anchor} }
    low: { shape: capsule, width: 0.7 m, height: 0.8 m, anchor: feet${h.blend} }
    wide: { anchor: feet, parts: { trunk: { shape: box, width: 0.6 m, height: 1 m }, pack: { shape: capsule, width: 0.4 m, height: 0.5 m, offset: [-0.3 m, 0.5 m] } } }
    ball: { shape: capsule, width: 0.6 m, height: 0.6 m, anchor: middle }
  probes:
    brow: { from: [0 m, 1.2 m], toward: ahead, reach: 0.7 m }
    toe: { from: [0.3 m, 0.1 m], toward: down, reach: 0.4 m, shape: { circle: 0.05 m } }
    eye: { from: [0 m, 1 m], toward: look, reach: 3 m, sees: [moss] }
abilities: { skill: { locked: true } }
tethers:
  line: { reach: 6 m, sees: [hook], most: 2 }
  reel: { reach: 8 m, aim: look, sees: [moss, stone] }
variables:
  flag: { flag: false, reset: ${h.reset} }
  spare: { count: 1, max: 3, refill: ${h.refill} }
  heat: { number: 0 m/s }
timers: { clock: { length: 0.25 s, runs: ${h.runs}, again: ${h.again} } }
cooldowns:
  cool: { charges: 2, recharge: 0.2 s, order: ${h.order}, from: ${h.from}, refill: ${h.cool} }
  slow: { recharge: 0.5 s }
lanes:
${h.lanes.map(laneText).join('\n')}
`
    // Nothing of the side's own in a moveset seen from above.
    .replace(/(?:gravity|ground|tether): \{[^{}]*(?:\{[^{}]*\}[^{}]*)?\},? ?/g, (m) => (h.above ? '' : m))
    .replace(/gravity: 0\.5,? ?/g, (m) => (h.above ? '' : m))
    .replace(/push: \{ downhill: 25 m\/s2 \},? ?/g, (m) => (h.above ? '' : m))
    .replace(/, slope: 1\.5/g, (m) => (h.above ? '' : m)),
);

const tenth = (min: number, max: number): fc.Arbitrary<number> =>
  fc.integer({ min: min * 10, max: max * 10 }).map((n) => n / 10);
const solid = fc
  .tuple(tenth(-6, 6), tenth(-1, 4), tenth(0, 3), tenth(0, 2), fc.boolean(), fc.constantFrom('stone', 'moss'))
  .map(([x, y, w, h, ramp, tag]) =>
    ramp
      ? `  - { points: [[${x} m, ${y} m], [${x + w + 0.5} m, ${y} m], [${x} m, ${y + h + 0.3} m]], tag: ${tag} }`
      : `  - { box: [[${x} m, ${y} m], [${x + w + 0.3} m, ${y + h + 0.2} m]], tag: ${tag} }`,
  );
const course = fc
  .record({
    solids: fc.array(solid, { maxLength: 6 }),
    mover: fc.tuple(tenth(-4, 4), tenth(0, 3), tenth(-3, 3), tenth(-2, 2), fc.boolean()),
    zones: fc.tuple(tenth(-5, 5), tenth(-5, 5), fc.boolean()),
    platform: fc.tuple(tenth(-5, 5), tenth(0, 3)),
  })
  .map(
    ({ solids, mover: [mx, my, dx, dy, has], zones: [wx, lx, once], platform: [px, py] }) => `glenmark: 1
kind: course
name: Random
solids:
  - { box: [[-30 m, -2 m], [30 m, 0 m]] }
${solids.join('\n')}
oneWays: [{ from: [${px} m, ${py} m], to: [${px + 2} m, ${py} m] }]
${has ? `movers: [{ box: [[${mx} m, ${my} m], [${mx + 1.5} m, ${my + 0.4} m]], path: [[0 m, 0 m], [${dx + 0.05} m, ${dy} m]], period: 1.3 s }]` : ''}
zones:
  - { tag: draught, box: [[${wx} m, 0 m], [${wx + 2} m, 3 m]], wind: [4 m/s2, 20 m/s2], drag: 1 1/s }
  - { tag: pad, box: [[${lx} m, 0 m], [${lx + 1} m, 0.4 m]], launch: [2 m/s, 7 m/s], unlocks: skill, once: ${once} }
anchors: { a: { at: [2 m, 5 m], tag: hook }, b: { at: [-3 m, 4 m], tag: hook } }
spawns: { start: { at: [0 m, 1 m] } }
`,
  );

const hold = fc.tuple(
  fc.constantFrom(-1, -1, 0, 0.5, 1, 1),
  fc.nat(1),
  fc.nat(1),
  fc.constantFrom(0, 60, 90, 180, 250),
  fc.integer({ min: 1, max: 14 }),
);
const inputs = fc
  .array(hold, { minLength: 3, maxLength: 10 })
  .map((holds) =>
    holds.flatMap(([move, hop, dash, look, length]) => Array.from({ length }, () => [move, hop, dash, look])),
  );

export const randomCase: fc.Arbitrary<RandomCase> = fc.record({ moveset: movesetText, course, inputs });
