import type { Expression } from '../../notation/index.js';
import { LEAVING, TETHER_SLACK } from '../../tolerances.js';
import type { Channel, GravityRule, Machine, Motion } from '../definition/machine.js';
import { moves } from '../reference/motion.js';
import { decay } from '../trigonometry.js';
import * as at from './layout.js';
import { numberSource, truthSource, valueSource, type Writer } from './source.js';

/**
 * Step 6 as source text, as `applyMotion` of the reference: zones, then the rules of the active states in lane order,
 * turn the velocity into this tick's. It works on locals: `vx`, `vy`, whether they are held (`hx`, `hy`), the leaves
 * (`l0`, `l1`, …), what lanes keep to themselves (`kx0`, `ky0`, `kg0`, …), the lane whose gravity rule counts (`pull`)
 * and whether the body stands; `f` are the facts as effects have left them.
 */
export function motionSource(machine: Machine, layout: at.Layout, w: Writer): string {
  const m: Maker = { machine, w, dt: numberSource(machine.dt), yielded: yieldedChannels(machine) };
  const lanes = machine.lanes.map((lane) => lane.index);
  return `(s, f) => {
${lanes.map((lane) => `const l${lane} = s[${layout.leaves + lane}];`).join('\n')}
${takeBackSource(m)}
let vx = s[${at.VX}], vy = s[${at.VY}], hx = false, hy = false, pull = -1;
${lanes.flatMap((lane) => keepSources(m, lane)).join('\n')}
${lanes.map((lane) => switchSource(m, lane, (leaf) => (machine.states[leaf]!.motion.gravity === undefined ? '' : `if (${keeps(m, lane, 'gravity') ?? 'true'}) pull = ${lane};`))).join('\n')}
const nx = s[${at.GROUND_NX}], ny = s[${at.GROUND_NY}];
let stands = s[${at.GROUND}] !== 0 && vx * nx + vy * ny <= ${LEAVING};
${liftSource(m)}
if (s[${at.IN_ZONES}] !== 0) {
body.vx = vx; body.vy = vy;
blow(s, stands, nx, ny);
vx = body.vx; vy = body.vy;
}
${lanes.map((lane) => switchSource(m, lane, (leaf) => ruleSource(m, lane, leaf))).join('\n')}
${machine.gravity === 0 ? '' : `if (!stands && !hy) {\n${fallSource(m)}\n}`}
if (!stands && s[${at.STEEP}] !== 0) {
${lanes.map((lane) => switchSource(m, lane, (leaf) => slipSource(m, lane, leaf))).join('\n')}
}
${lanes.map((lane) => switchSource(m, lane, (leaf) => lastSource(m, lane, leaf))).join('\n')}
body.vx = bounded(vx); body.vy = bounded(vy);
}`;
}

interface Maker {
  machine: Machine;
  w: Writer;
  dt: string;
  /** Channels that some lane yields: only then must be known who wrote them. */
  yielded: ReadonlySet<Channel>;
}

const yieldedChannels = (machine: Machine): Set<Channel> => new Set(machine.lanes.flatMap((l) => l.yields));

/** A choice by the leaf of a lane; nothing where no leaf has anything to do. */
function switchSource({ machine }: Maker, lane: number, of: (leaf: number) => string): string {
  const cases = machine.lanes[lane]!.states.flatMap((leaf) => {
    const source = machine.states[leaf]!.members.length > 0 ? '' : of(leaf);
    return source === '' ? [] : [`case ${leaf}: {\n${source}\nbreak;\n}`];
  });
  return cases.length === 0 ? '' : `switch (l${lane}) {\n${cases.join('\n')}\n}`;
}

/** Notes a write: to the log when that is kept, and who it was when some lane yields the channel. */
function noted(
  { yielded }: Maker,
  channel: 'vx' | 'vy',
  lane: number,
  by: string,
  leaf: number,
  replaces: boolean,
): string {
  const call = `note(log, '${channel}', ${lane}, '${by}', ${leaf}, -1, ${replaces}, ${channel});`;
  return yielded.has(channel) ? call : `if (log.on) ${call}`;
}

/** A condition: the active state of another lane moves a channel. Of lanes that all yield it, the first one keeps it. */
function movedSource({ machine }: Maker, lane: number, channel: 'vx' | 'vy' | 'gravity'): string {
  const { lanes, states, plane } = machine;
  const others = lanes
    .filter(({ index, yields }) => index !== lane && (index < lane || !yields.includes(channel)))
    .flatMap(({ index, states: leaves }) =>
      leaves
        .filter((leaf) => states[leaf]!.members.length === 0)
        .filter((leaf) => moves(states[leaf]!.motion, channel, plane === 'above'))
        .map((leaf) => `l${index} === ${leaf}`),
    );
  return others.join(' || ') || 'false';
}

/** A lane takes back what its effects wrote to a channel that it yields, where another lane's state moves it. */
const takeBackSource = (m: Maker): string =>
  (['vx', 'vy'] as const)
    .flatMap((channel) =>
      m.machine.lanes
        .filter(({ yields }) => yields.includes(channel))
        .map(
          ({ index }) =>
            `if (yielded.${channel}.lane === ${index} && (${movedSource(m, index, channel)})) takeBack(s, '${channel}');`,
        ),
    )
    .join('\n');

/** What is settled before any rule writes: which of the channels that it yields a lane keeps in this tick. */
const keepSources = (m: Maker, lane: number): string[] =>
  (['vx', 'vy', 'gravity'] as const)
    .filter((channel) => m.machine.lanes[lane]!.yields.includes(channel))
    .map((channel) => {
      const written = channel === 'gravity' ? '' : ` || isWrittenByAnother(log, '${channel}', ${lane})`;
      return `const ${keeps(m, lane, channel)!} = !(${movedSource(m, lane, channel)}${written});`;
    });

/** The local that says whether a lane keeps a channel; undefined where it never yields it. */
const keeps = ({ machine }: Maker, lane: number, channel: 'vx' | 'vy' | 'gravity'): string | undefined =>
  machine.lanes[lane]!.yields.includes(channel)
    ? `k${{ vx: 'x', vy: 'y', gravity: 'g' }[channel]}${lane}`
    : undefined;

/** A body that pushes and winds lift more strongly than gravity holds it down does not stand. */
function liftSource(m: Maker): string {
  const { lanes, gravity } = m.machine;
  const g = numberSource(gravity);
  const ofLanes = (of: (motion: Motion) => string): string =>
    lanes
      .map(({ index }) =>
        switchSource(m, index, (leaf) => {
          const source = of(m.machine.states[leaf]!.motion);
          return source === '' ? '' : `if (${both(keeps(m, index, 'vy'))}) { ${source} }`;
        }),
      )
      .join('\n');
  const pushes = ofLanes(({ push }) => (push?.y === undefined ? '' : `lift += ${valueSource(push.y, m.w)};`));
  const holds = ofLanes(({ hold }) => (hold?.vy === undefined ? '' : 'holdsVy = true;'));
  const weights = lanes.map(({ index }) => {
    const source = switchSource(m, index, (leaf) => {
      const rule = m.machine.states[leaf]!.motion.gravity;
      return rule === undefined ? '' : `weight = ${g} * ${scaleSource(m, rule)};`;
    });
    return source === '' ? '' : `case ${index}:\n${source}\nbreak;`;
  });
  const winds = `s[${at.IN_ZONES}] !== 0`;
  return `if (stands${pushes === '' ? ` && ${winds}` : ''}) {
let lift = ${winds} ? windUp(s) : 0, holdsVy = false;
${pushes}
if (lift > 0) {
${holds}
let weight = ${g};
switch (pull) {\n${weights.join('\n')}\n}
stands = holdsVy || lift <= weight;
}
}`;
}

/** The scale of gravity for the present vy. */
function scaleSource(m: Maker, { rising, falling, cut }: GravityRule): string {
  const scale = (e: Expression | undefined): string => (e === undefined ? '1' : valueSource(e, m.w));
  const up =
    cut === undefined
      ? scale(rising)
      : `(${truthSource(cut.when, m.w)} ? ${valueSource(cut.scale, m.w)} : ${scale(rising)})`;
  return `(vy > 0 ? ${up} : ${scale(falling)})`;
}

const both = (...conditions: (string | undefined)[]): string =>
  conditions.filter((c) => c !== undefined).join(' && ') || 'true';

function ruleSource(m: Maker, lane: number, leaf: number): string {
  const { hold, drive, push } = m.machine.states[leaf]!.motion;
  const lines: string[] = [];
  const [keepsX, keepsY] = (['vx', 'vy'] as const).map((c) => keeps(m, lane, c));
  if (hold?.vx !== undefined) {
    const free = hold.vy === undefined ? '!hy' : both('!hy', keepsY === undefined ? 'false' : `!${keepsY}`);
    lines.push(`if (${both(keepsX)}) {
const speed = ${valueSource(hold.vx, m.w)};
if (stands && ${free}) { vx = speed * ny; vy = 0 - speed * nx; } else vx = speed;
hx = true; ${noted(m, 'vx', lane, 'hold', leaf, true)}
}`);
  }
  if (hold?.vy !== undefined)
    lines.push(
      `if (${both(keepsY)}) { vy = ${valueSource(hold.vy, m.w)}; hy = true; ${noted(m, 'vy', lane, 'hold', leaf, true)} }`,
    );
  if (drive !== undefined)
    lines.push(
      m.machine.plane === 'above'
        ? driveAboveSource(m, lane, leaf)
        : `if (${both(keepsX, '!hx')}) {\n${driveSource(m, lane, leaf)}\n}`,
    );
  if (push !== undefined) lines.push(pushSource(m, lane, leaf));
  return lines.join('\n');
}

/** The rates of a drive: what is not given is the one before. */
function ratesOf(m: Maker, { gain, brake, turn }: NonNullable<Motion['drive']>): string[] {
  const value = (...given: (Expression | undefined)[]): string => {
    const first = given.find((e) => e !== undefined);
    return first === undefined ? '0' : valueSource(first, m.w);
  };
  return [value(gain), value(brake, gain), value(turn, brake, gain)];
}

function driveAboveSource(m: Maker, lane: number, leaf: number): string {
  const { motion } = m.machine.states[leaf]!;
  const rule = motion.drive!;
  const { instant, carry } = rule;
  const toY = rule.toY === undefined ? '0' : valueSource(rule.toY, m.w);
  const carried =
    carry === undefined ? 'Infinity, 0' : `${valueSource(carry.above, m.w)}, ${valueSource(carry.fade, m.w)}`;
  return `driveAbove(vx, vy, ${valueSource(rule.to, m.w)}, ${toY}, '${motion.directions ?? 'free'}', ${instant}, ${ratesOf(m, rule).join(', ')}, ${carried});
if (${both('!hx', keeps(m, lane, 'vx'))}) { vx = driven.x; ${noted(m, 'vx', lane, 'drive', leaf, instant)} }
if (${both('!hy', keeps(m, lane, 'vy'))}) { vy = driven.y; ${noted(m, 'vy', lane, 'drive', leaf, instant)} }`;
}

function driveSource(m: Maker, lane: number, leaf: number): string {
  const rule = m.machine.states[leaf]!.motion.drive!;
  const to = valueSource(rule.to, m.w);
  const [gain, brake, turn] = ratesOf(m, rule);
  const { instant, carry } = rule;
  const write = `if (stands) { vx = speed * ny; if (!hy) vy = 0 - speed * nx; } else vx = speed;
${noted(m, 'vx', lane, 'drive', leaf, instant)}`;
  if (instant) return `const speed = ${to};\n${write}`;
  const kept =
    carry === undefined
      ? ''
      : `if (!against && excess > ${valueSource(carry.above, m.w)}) {
const uphill = (stands ? -nx : 0) * Math.sign(speed);
const share = ${carry.slope === undefined ? '1' : `Math.max(0, 1 + ${valueSource(carry.slope, m.w)} * uphill)`};
speed = approach(speed, to, ${valueSource(carry.fade, m.w)} * share * ${m.dt});
} else `;
  return `const to = ${to};
let speed = stands ? vx * ny - vy * nx : vx;
const against = speed * to < 0;
const excess = Math.abs(speed) - Math.abs(to);
${kept}speed = approach(speed, to, (against ? ${turn} : excess > 0 ? ${brake} : ${gain}) * ${m.dt});
${write}`;
}

function pushSource(m: Maker, lane: number, leaf: number): string {
  const { x, y, downhill } = m.machine.states[leaf]!.motion.push!;
  const value = (e: Expression | undefined): string => (e === undefined ? '0' : valueSource(e, m.w));
  const [keepsX, keepsY] = (['vx', 'vy'] as const).map((c) => keeps(m, lane, c));
  // Along the surface a pull of a down a slope of angle θ is a·sin θ, and sin θ is the normal's lean.
  return `const ax = ${value(x)};
if (stands) {
const a = ax + ${value(downhill)} * nx;
if (${both('a !== 0', '!hx', keepsX)}) {
const speed = vx * ny - vy * nx + a * ${m.dt};
vx = speed * ny; if (!hy) vy = 0 - speed * nx;
${noted(m, 'vx', lane, 'push', leaf, false)}
}
} else {
const ay = ${value(y)};
if (${both('ax !== 0', '!hx', keepsX)}) { vx += ax * ${m.dt}; ${noted(m, 'vx', lane, 'push', leaf, false)} }
if (${both('ay !== 0', '!hy', keepsY)}) { vy += ay * ${m.dt}; ${noted(m, 'vy', lane, 'push', leaf, false)} }
}`;
}

/** Gravity, once a tick, by the rule of the last lane that has one; as it is when none has. */
function fallSource(m: Maker): string {
  const g = numberSource(m.machine.gravity);
  const plain = `default: vy -= ${g} * ${m.dt}; ${noted(m, 'vy', -1, 'gravity', -1, false)}`;
  const cases = m.machine.lanes.map(
    (lane) =>
      `case ${lane.index}:\n${switchSource(m, lane.index, (leaf) => pullSource(m, lane.index, leaf, g))}\nbreak;`,
  );
  return `switch (pull) {\n${cases.join('\n')}\n${plain}\n}`;
}

function pullSource(m: Maker, lane: number, leaf: number, g: string): string {
  const rule = m.machine.states[leaf]!.motion.gravity;
  if (rule === undefined) return '';
  const terminal =
    rule.terminal === undefined ? '' : `vy = Math.max(vy, -${valueSource(rule.terminal, m.w)});\n`;
  return `vy -= ${g} * ${scaleSource(m, rule)} * ${m.dt};
${terminal}${noted(m, 'vy', lane, 'gravity', leaf, false)}`;
}

/** On what is too steep to walk, `slip` adds a pull down the surface to whatever the body does. */
function slipSource(m: Maker, lane: number, leaf: number): string {
  const slip = m.machine.states[leaf]!.motion.ground?.slip;
  if (slip === undefined) return '';
  return `const a = ${valueSource(slip, m.w)} * ${m.dt} * Math.sign(s[${at.STEEP_NX}]);
if (!hx) { vx += a * s[${at.STEEP_NY}]; ${noted(m, 'vx', lane, 'slip', leaf, false)} }
if (!hy) { vy -= a * s[${at.STEEP_NX}]; ${noted(m, 'vy', lane, 'slip', leaf, false)} }`;
}

/** Tethers and drag, which come after all else. */
function lastSource(m: Maker, lane: number, leaf: number): string {
  const { tether, drag } = m.machine.states[leaf]!.motion;
  const lines: string[] = [];
  if (tether !== undefined) lines.push(tetherSource(m, tether, lane, leaf));
  if (drag !== undefined) {
    const factor =
      drag.kind === 'constant'
        ? numberSource(decay(drag.value * m.machine.dt))
        : `decay(${valueSource(drag, m.w)} * ${m.dt})`;
    lines.push(`const factor = ${factor};
if (!hx) { vx *= factor; ${noted(m, 'vx', lane, 'drag', leaf, false)} }
if (!hy && !(stands && hx)) { vy *= factor; if (!stands) { ${noted(m, 'vy', lane, 'drag', leaf, false)} } }`);
  }
  return lines.join('\n');
}

/** On a line: reeled to the centre of the anchors, or climbing with a limit sideways. */
function tetherSource(m: Maker, rule: NonNullable<Motion['tether']>, lane: number, leaf: number): string {
  const writes = {
    vx: noted(m, 'vx', lane, 'tether', leaf, true),
    vy: noted(m, 'vy', lane, 'tether', leaf, true),
  };
  if (rule.reel !== undefined)
    return `if (hangs(s)) {
const dx = centre.x - s[${at.X}], dy = centre.y - middle(s);
const far = Math.sqrt(dx * dx + dy * dy);
const speed = Math.min(${valueSource(rule.reel, m.w)}, far / ${m.dt});
vx = far === 0 ? 0 : (dx / far) * speed; ${writes.vx}
vy = far === 0 ? 0 : (dy / far) * speed; ${writes.vy}
}`;
  const climb = rule.climb === undefined ? '0' : valueSource(rule.climb, m.w);
  const { sideways } = rule;
  if (sideways === undefined) return `if (hangs(s)) { vy = ${climb}; ${writes.vy} }`;
  const limitAt = (y: string): string =>
    'length' in sideways
      ? valueSource(sideways.length, m.w)
      : `Math.max(0, centre.y - ${y}) * ${numberSource(sideways.tangent)}`;
  return `if (hangs(s)) {
vy = ${climb}; ${writes.vy}
const x = s[${at.X}], limit = ${limitAt(`(middle(s) + vy * ${m.dt})`)};
const out = x - centre.x, far = Math.abs(out);
if (far > limit && far > ${limitAt('middle(s)')} + ${numberSource(TETHER_SLACK)}) {
const inwards = out < 0 ? 1 : -1;
const speed = Math.max(0, inwards * vx, inwards * s[${at.VX}] + ${numberSource(m.machine.gravity)} * ${m.dt});
vx = inwards * Math.min(speed, (far - limit) / ${m.dt}); ${writes.vx}
} else {
const next = Math.max(centre.x - limit, Math.min(centre.x + limit, x + vx * ${m.dt}));
vx = (next - x) / ${m.dt}; ${writes.vx}
}
}`;
}
