import type { Expression } from '../../notation/index.js';
import type { Channel, Machine, Motion } from '../definition.js';
import { LEAVING, SLACK } from '../motion.js';
import * as at from './layout.js';
import { numberSource, truthSource, valueSource, type Writer } from './source.js';

/**
 * Step 6 as source text, as `applyMotion` of the reference: zones, then the rules of the active states in lane order,
 * turn the velocity into this tick's. It works on locals: `vx`, `vy`, whether they are held (`hx`, `hy`), the leaves
 * (`l0`, `l1`, …) and the lane whose gravity rule counts (`pull`); `f` are the facts as effects have left them.
 */
export function motionSource(machine: Machine, layout: at.Layout, w: Writer): string {
  const m: Maker = { machine, w, dt: numberSource(machine.dt), yielded: yieldedChannels(machine) };
  const lanes = machine.lanes.map((lane) => lane.index);
  return `(s, f) => {
let vx = s[${at.VX}], vy = s[${at.VY}], hx = false, hy = false, pull = -1;
if (s[${at.IN_ZONES}] !== 0) {
body.vx = vx; body.vy = vy;
blow(s);
vx = body.vx; vy = body.vy;
}
const nx = s[${at.GROUND_NX}], ny = s[${at.GROUND_NY}];
const stands = s[${at.GROUND}] !== 0 && vx * nx + vy * ny <= ${LEAVING};
${lanes.map((lane) => `const l${lane} = s[${layout.leaves + lane}];`).join('\n')}
${lanes.map((lane) => switchSource(m, lane, (leaf) => ruleSource(m, lane, leaf))).join('\n')}
${machine.gravity === 0 ? '' : `if (!stands && !hy) {\n${fallSource(m)}\n}`}
if (!stands && s[${at.STEEP}] !== 0) {
${lanes.map((lane) => switchSource(m, lane, (leaf) => slipSource(m, lane, leaf))).join('\n')}
}
${lanes.map((lane) => switchSource(m, lane, (leaf) => lastSource(m, lane, leaf))).join('\n')}
body.vx = vx; body.vy = vy;
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

/** A condition under which a lane keeps a channel to itself; undefined when always. */
function keepsSource(m: Maker, lane: number, channel: 'vx' | 'vy' | 'gravity'): string | undefined {
  const { lanes, states } = m.machine;
  if (!lanes[lane]!.yields.includes(channel)) return undefined;
  const moves = ({ drive, hold, push, gravity }: Motion): boolean =>
    channel === 'gravity'
      ? gravity !== undefined
      : channel === 'vx'
        ? drive !== undefined || hold?.vx !== undefined || push?.x !== undefined
        : hold?.vy !== undefined || push?.y !== undefined;
  const others = lanes
    .filter((other) => other.index !== lane)
    .flatMap((other) =>
      other.states
        .filter((leaf) => states[leaf]!.members.length === 0 && moves(states[leaf]!.motion))
        .map((leaf) => `l${other.index} === ${leaf}`),
    );
  if (channel !== 'gravity') others.push(`isWrittenByAnother(log, '${channel}', ${lane})`);
  return others.length === 0 ? undefined : `!(${others.join(' || ')})`;
}

const both = (...conditions: (string | undefined)[]): string =>
  conditions.filter((c) => c !== undefined).join(' && ') || 'true';

function ruleSource(m: Maker, lane: number, leaf: number): string {
  const { hold, drive, push, gravity } = m.machine.states[leaf]!.motion;
  const lines: string[] = [];
  // What a lane gives away is settled before it writes anything.
  const [kx, ky, kg] = (['vx', 'vy', 'gravity'] as const).map((c) => keepsSource(m, lane, c));
  if (kx !== undefined) lines.push(`const kx = ${kx};`);
  if (ky !== undefined) lines.push(`const ky = ${ky};`);
  const keepsX = kx === undefined ? undefined : 'kx';
  const keepsY = ky === undefined ? undefined : 'ky';
  if (hold?.vx !== undefined)
    lines.push(
      `if (${both(keepsX)}) { vx = ${valueSource(hold.vx, m.w)}; hx = true; ${noted(m, 'vx', lane, 'hold', leaf, true)} }`,
    );
  if (hold?.vy !== undefined)
    lines.push(
      `if (${both(keepsY)}) { vy = ${valueSource(hold.vy, m.w)}; hy = true; ${noted(m, 'vy', lane, 'hold', leaf, true)} }`,
    );
  if (drive !== undefined) lines.push(`if (${both(keepsX, '!hx')}) {\n${driveSource(m, lane, leaf)}\n}`);
  if (push !== undefined) lines.push(pushSource(m, lane, leaf, keepsX, keepsY));
  if (gravity !== undefined) lines.push(kg === undefined ? `pull = ${lane};` : `if (${kg}) pull = ${lane};`);
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

function driveSource(m: Maker, lane: number, leaf: number): string {
  const { motion } = m.machine.states[leaf]!;
  const rule = motion.drive!;
  const to = valueSource(rule.to, m.w);
  const [gain, brake, turn] = ratesOf(m, rule);
  const { instant } = rule;
  if (m.machine.plane === 'above') {
    const toY = rule.toY === undefined ? '0' : valueSource(rule.toY, m.w);
    return `driveAbove(vx, vy, ${to}, ${toY}, '${motion.directions ?? 'free'}', ${instant}, ${gain}, ${brake}, ${turn});
vx = driven.x; ${noted(m, 'vx', lane, 'drive', leaf, instant)}
if (!hy) { vy = driven.y; ${noted(m, 'vy', lane, 'drive', leaf, instant)} }`;
  }
  const write = `if (stands) { vx = speed * ny; if (!hy) vy = speed * -nx; } else vx = speed;
${noted(m, 'vx', lane, 'drive', leaf, instant)}`;
  if (instant) return `const speed = ${to};\n${write}`;
  const carry = rule.carry;
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

function pushSource(
  m: Maker,
  lane: number,
  leaf: number,
  keepsX: string | undefined,
  keepsY: string | undefined,
): string {
  const { x, y, downhill } = m.machine.states[leaf]!.motion.push!;
  const value = (e: Expression | undefined): string => (e === undefined ? '0' : valueSource(e, m.w));
  // Along the surface a pull of a down a slope of angle θ is a·sin θ, and sin θ is the normal's lean.
  return `const along = stands ? ${value(downhill)} * nx : 0;
const ax = ${value(x)} + (stands ? along * ny : 0);
const ay = ${value(y)} - (stands ? along * nx : 0);
if (${both('!hx', keepsX, 'ax !== 0')}) { vx += ax * ${m.dt}; ${noted(m, 'vx', lane, 'push', leaf, false)} }
if (${both('!hy', keepsY, 'ay !== 0')}) { vy += ay * ${m.dt}; ${noted(m, 'vy', lane, 'push', leaf, false)} }`;
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
  const scale = (e: Expression | undefined): string => (e === undefined ? '1' : valueSource(e, m.w));
  const cut =
    rule.cut === undefined
      ? ''
      : `if (vy > 0 && ${truthSource(rule.cut.when, m.w)}) scale = ${valueSource(rule.cut.scale, m.w)};\n`;
  const terminal =
    rule.terminal === undefined ? '' : `vy = Math.max(vy, -${valueSource(rule.terminal, m.w)});\n`;
  return `let scale = vy > 0 ? ${scale(rule.rising)} : ${scale(rule.falling)};
${cut}vy -= ${g} * scale * ${m.dt};
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
  if (drag !== undefined)
    lines.push(`const factor = 1 / (1 + ${valueSource(drag, m.w)} * ${m.dt});
if (!hx) { vx *= factor; ${noted(m, 'vx', lane, 'drag', leaf, false)} }
if (stands) vy *= factor;
else if (!hy) { vy *= factor; ${noted(m, 'vy', lane, 'drag', leaf, false)} }`);
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
if (far > limit && far > ${limitAt('middle(s)')} + ${numberSource(SLACK)}) {
const inwards = out < 0 ? 1 : -1;
const speed = Math.max(0, inwards * vx, inwards * s[${at.VX}] + ${numberSource(m.machine.gravity)} * ${m.dt});
vx = inwards * Math.min(speed, (far - limit) / ${m.dt}); ${writes.vx}
} else {
const next = Math.max(centre.x - limit, Math.min(centre.x + limit, x + vx * ${m.dt}));
vx = (next - x) / ${m.dt}; ${writes.vx}
}
}`;
}
