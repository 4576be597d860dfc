import { present } from '../../present.js';
import {
  type Change,
  changed,
  checkShape,
  type Diagnostic,
  isUsable,
  type MovesetFile,
  readFile,
  type Source,
  splicedSource,
} from '../../model/index.js';
import { factsIn } from '../../notation/index.js';
import { createContext, fault } from './context.js';
import { compileAccepted, compileLimits } from './limits.js';
import type { Control, Machine } from '../definition/machine.js';
import { allEffects, steersIn } from '../definition/expressions.js';
import { compileGameLog } from './game-log.js';
import { compileLanes } from './lanes.js';
import { compileSettings } from './settings.js';
import { addBlends, compileStances } from './stances.js';
import {
  compileAbilities,
  compileControls,
  compileCooldowns,
  compileDials,
  compileProbes,
  compileTethers,
  compileTimers,
  compileVariables,
} from './values.js';

export const DEFAULT_RATE = 60;

export interface Compiled {
  /** There when nothing is wrong with the document. */
  machine?: Machine;
  file?: MovesetFile;
  source?: Source;
  diagnostics: Diagnostic[];
}

/** Reads and compiles a moveset from YAML or JSON text. Never throws; all faults are reported, each at its place. */
export function readMoveset(text: string, options: { rate?: number } = {}): Compiled {
  const { file, source, diagnostics } = readFile('moveset', text);
  if (file === undefined || source === undefined) return { source, diagnostics };
  return compileMoveset(file, source, options);
}

/**
 * What a moveset would compile to after some changes, without its text: a third of the time of reading it anew. The
 * places of what is wrong are those of the old text, or near them.
 */
export function compileChanged({ file, source }: Compiled, changes: readonly Change[]): Compiled {
  if (file === undefined || source === undefined)
    throw new RangeError('a moveset that does not load cannot be changed');
  return compiledAt(source, changed(file, changes));
}

/**
 * What a moveset would compile to with other values in the place of its dials' or of gravity's, each a text of the
 * notation where one stands: the quickest way, for many settings.
 */
export function compileTurned({ file, source }: Compiled, changes: readonly Change[]): Compiled {
  if (file === undefined || source === undefined)
    throw new RangeError('a moveset that does not load cannot be turned');
  return compileMoveset(changed(file, changes), source);
}

/**
 * What the text of a moveset reads as after changes that stay each in one value, without reading it: all places are
 * those of the new text, which is its source's. Undefined for changes that take a whole reading.
 */
export function compileSpliced({ file, source }: Compiled, changes: readonly Change[]): Compiled | undefined {
  const after = file && source && splicedSource(source, changes);
  return after && compiledAt(after, changed(file, changes));
}

function compiledAt(source: Source, value: unknown): Compiled {
  const { file, diagnostics } = checkShape('moveset', value, source);
  return file === undefined ? { source, diagnostics } : compileMoveset(file, source);
}

/** Compiles a moveset whose shape is right. `rate` overrides the ticks a second that the file asks for. */
export function compileMoveset(file: MovesetFile, source: Source, options: { rate?: number } = {}): Compiled {
  const rate = options.rate ?? file.tickRate ?? DEFAULT_RATE;
  const context = createContext(file, source, rate);
  context.stances = compileStances(context);
  if (context.stances.length === 0)
    fault(context, ['body', 'stances'], 'found no stance, expected at least one');
  const casts: Machine['casts'] = [];
  const dials = compileDials(context);
  const tables = {
    dials,
    settings: compileSettings(context, dials),
    gameLog: compileGameLog(context),
    controls: compileControls(file),
    probes: compileProbes(context, casts),
    tethers: compileTethers(context),
    variables: compileVariables(context),
    timers: compileTimers(context),
    cooldowns: compileCooldowns(context),
    abilities: compileAbilities(file),
    limits: compileLimits(context),
    accepted: compileAccepted(context),
  };
  const { lanes, states } = compileLanes(context);
  // What is never used may be so only because something else is wrong.
  const diagnostics = [...context.diagnostics].sort((a, b) => a.line - b.line || a.column - b.column);
  if (!isUsable(diagnostics)) return { file, source, diagnostics };
  const machine: Machine = {
    name: file.name,
    steering: steeringOf(tables.controls, { lanes, states }),
    rate,
    dt: 1 / rate,
    nominalRate: file.tickRate ?? DEFAULT_RATE,
    gravity: file.plane === 'above' ? 0 : context.gravity,
    plane: file.plane ?? 'side',
    integration: file.integration ?? 'semi-implicit',
    casts,
    ...tables,
    stances: context.stances,
    blends: addBlends(context),
    events: context.names.event,
    zoneTags: context.zoneTags,
    tagHits: context.tagHits,
    lanes,
    states,
    memories: context.memories,
    facts: context.facts,
    texts: context.texts,
    idle: context.idle,
    references: context.references,
  };
  return { machine, file, source, diagnostics };
}

/** The axes that the sideways motion of some state, or an effect on vx, reads; all axes where none does. */
function steeringOf(controls: readonly Control[], machine: Pick<Machine, 'lanes' | 'states'>): number[] {
  const steers = [
    ...machine.states.flatMap((state) => steersIn(state.motion)),
    ...allEffects(machine).flatMap((e) => (e.kind === 'velocity' && e.channel === 'vx' ? [e.value] : [])),
  ];
  const read = new Set(steers.flatMap(factsIn).flatMap(({ fact, of }) => (fact === 'axis' ? [of] : [])));
  const axes = [...controls.keys()].filter((i) => present(controls[i]).kind === 'axis');
  const steering = axes.filter((i) => read.has(present(controls[i]).name));
  return steering.length > 0 ? steering : axes;
}
