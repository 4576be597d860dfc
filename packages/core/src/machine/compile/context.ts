import { present } from '../../present.js';
import {
  type Diagnostic,
  diagnosticAt,
  didYouMean,
  type MovesetFile,
  type NotationText,
  type Path,
  type Source,
} from '../../model/index.js';
import {
  ACCELERATION,
  checkText,
  codeOf,
  type Dimension,
  evaluate,
  type Expression,
  FACTS,
  FACTS_OF,
  type FactRef,
  idOfRef,
  LENGTH,
  parseEffect,
  parseExpression,
  type Parsed,
  PLAIN,
  type Scope,
  SPEED,
  type Syntax,
  type ThingKind,
  toTicks,
  TRUTH,
  WORDS,
} from '../../notation/index.js';
import type { IdleField, Machine, Memory, NotationPlace, Reference, Stance } from '../definition/machine.js';
import { addFact, createFactTable, type FactTable } from '../definition/facts.js';

/** Everything the parts of the compiler share: the document, its names, its facts and the faults found so far. */
export interface Context {
  file: MovesetFile;
  source: Source;
  rate: number;
  gravity: number;
  diagnostics: Diagnostic[];
  facts: FactTable;
  memories: Memory[];
  names: Record<ThingKind, string[]>;
  /** Grows while lanes are compiled: a state may take parts off a stance. */
  stances: Stance[];
  texts: NotationPlace[];
  idle: IdleField[];
  references: Reference[];
  /** Zones and tags are things of a course: those that some expression asks for, as they are met. */
  zoneTags: string[];
  tagHits: Machine['tagHits'];
  /** Dials and gravity, worked out on demand. */
  constant(name: string): { dimension: Dimension; value: number } | 'cyclic' | undefined;
  scope: Scope;
}

/** Expressions that were parsed, by document: after an edit of one value all the others are as they were. */
const parsed = new WeakMap<Source['document'], Map<string, Parsed<Syntax>>>();
const MAX_PARSED = 4096;

/** A parser that parses each text of a document once. What it remembers goes with the document. */
function parserFor({ document }: Source): (text: string) => Parsed<Syntax> {
  const known = parsed.get(document) ?? new Map<string, Parsed<Syntax>>();
  parsed.set(document, known);
  return (text) => {
    const result = known.get(text) ?? parseExpression(text);
    if (known.size >= MAX_PARSED) known.clear();
    known.set(text, result);
    return result;
  };
}

/** A text that is the same for memories that count alike. */
const memoryCode = ({ mode, of, ticks, presses }: Omit<Memory, 'slot'>): string =>
  `${mode} ${ticks} ${presses.join()} ${codeOf(of)}`;

/** Dials that may stand in a chain, each made from the next: nobody could follow more, and working them out is recursive. */
const MAX_CHAIN = 100;

export function createContext(file: MovesetFile, source: Source, rate: number): Context {
  const facts = createFactTable();
  const memories: Memory[] = [];
  const remembered = new Map<string, number>();
  const names = collectNames(file);
  const context: Context = {
    file,
    source,
    rate,
    gravity: 0,
    diagnostics: [],
    facts,
    memories,
    names,
    stances: [],
    texts: [],
    idle: [],
    references: [],
    zoneTags: [],
    tagHits: [],
    constant: () => undefined,
    scope: {
      rate,
      pixel: undefined,
      constant: (name) => context.constant(name),
      variable: (name) => variableOf(file, name, context),
      things: (kind) => (kind === 'zone' ? undefined : names[kind]),
      names: () => [...Object.keys(file.dials ?? {}), ...Object.keys(file.variables ?? {}), 'gravity'],
      slot: (ref) => slotFor(context, ref),
      memory: (memory) => {
        // What is remembered alike is remembered once, wherever it is written.
        const code = memoryCode(memory);
        let slot = remembered.get(code);
        if (slot === undefined) {
          slot = addFact(facts, undefined);
          memories.push({ ...memory, slot });
          remembered.set(code, slot);
        }
        return slot;
      },
      parse: parserFor(source),
      elapsed: { fact: 'elapsed' },
    },
  };
  checkNames(context);
  allocateFacts(context);
  let depth = 0;
  const constants = new Map<string, { dimension: Dimension; value: number } | 'cyclic'>();
  const constantScope: Scope = {
    ...context.scope,
    variable: () => undefined,
    slot: () => undefined,
    memory: () => undefined,
  };
  context.constant = (name) => {
    const known = constants.get(name);
    if (known !== undefined) return known;
    const dial = own(file.dials, name);
    const isGravity = name === 'gravity';
    if (dial === undefined && !isGravity) return undefined;
    constants.set(name, 'cyclic');
    const path: Path = isGravity
      ? ['gravity']
      : typeof dial === 'object'
        ? ['dials', name, 'value']
        : ['dials', name];
    const text = isGravity ? (file.gravity ?? 0) : typeof dial === 'object' ? dial.value : present(dial);
    if (depth >= MAX_CHAIN)
      fault(
        context,
        path,
        `found a dial behind ${MAX_CHAIN} others, each made from the next; expected a shorter chain`,
      );
    depth++;
    const checked =
      depth > MAX_CHAIN
        ? undefined
        : checkAt(context, constantScope, text, path, isGravity ? ACCELERATION : undefined);
    depth--;
    const result =
      checked?.kind === 'constant'
        ? { dimension: checked.dimension, value: checked.value }
        : { dimension: isGravity ? ACCELERATION : PLAIN, value: 0 };
    constants.set(name, result);
    return result;
  };
  if (file.pixel !== undefined) context.scope.pixel = constantAt(context, file.pixel, ['pixel'], LENGTH);
  constantScope.pixel = context.scope.pixel;
  const gravity = context.constant('gravity');
  context.gravity = typeof gravity === 'object' ? gravity.value : 0;
  return context;
}

/** An entry of a section by its name; names such as `constructor` are no entries. */
const own = <T>(section: Record<string, T> | undefined, name: string): T | undefined =>
  section !== undefined && Object.hasOwn(section, name) ? section[name] : undefined;

/** Records a fault at a path of the document. */
export function fault(
  context: Context,
  path: Path,
  message: string,
  options: { key?: boolean; offset?: number } = {},
): void {
  context.diagnostics.push(diagnosticAt(context.source, path, message, options));
}

/** Checks a text in the machine's scope; faults are recorded at their place and give undefined. */
export const expressionAt = (
  context: Context,
  text: NotationText | undefined,
  path: Path,
  dimension: Dimension,
  more: Pick<Partial<Scope>, 'elapsed' | 'usesPresses'> = {},
): Expression | undefined =>
  text === undefined ? undefined : checkAt(context, { ...context.scope, ...more }, text, path, dimension);

/** A quantity that cannot change while running; 0 after a fault, which is recorded. */
export function constantAt(
  context: Context,
  text: NotationText,
  path: Path,
  dimension: Dimension,
  atLeast = -Infinity,
): number {
  const scope: Scope = {
    ...context.scope,
    variable: () => undefined,
    slot: () => undefined,
    memory: () => undefined,
  };
  const expression = checkAt(context, scope, text, path, dimension);
  const value = expression === undefined ? 0 : evaluate(expression, []);
  if (expression !== undefined && value < atLeast)
    fault(context, path, `found ${String(text)}, expected at least ${atLeast}`);
  return value;
}

/** A length of time in whole ticks, at least one. */
export function ticksAt(context: Context, text: NotationText, path: Path, dimension: Dimension): number {
  const ticks = toTicks(constantAt(context, text, path, dimension), context.rate);
  if (ticks < 1 && context.diagnostics.length === 0)
    fault(context, path, `found ${String(text)}, which is ${ticks} ticks, expected at least one`);
  return Math.max(ticks, 1);
}

/** The stance or ability that a state or crossing names, noted as a reference; −1 with a fault when there is none. */
export function referenceAt(context: Context, kind: 'stance' | 'ability', name: string, path: Path): number {
  const index = indexAt(context, { what: kind, list: context.names[kind] }, name, path);
  if (index >= 0) noteNamed(context, kind, name, path);
  return index;
}

/** Notes that a whole value of the document is the name of something. */
export const noteNamed = (context: Context, kind: Reference['kind'], name: string, path: Path): void =>
  void context.references.push({ kind, name, use: 'named', path, span: undefined });

/** The index of a name in a list, or −1 with a fault that names the nearest. */
export function indexAt(
  context: Context,
  { what, list }: { what: string; list: readonly string[] },
  name: string,
  path: Path,
  offset?: number,
): number {
  const index = list.indexOf(name);
  if (index < 0) {
    const hint =
      didYouMean(name, list) ||
      (list.length === 0 ? ', there is none yet' : `, expected one of ${list.slice(0, 12).join(', ')}`);
    fault(context, path, `no ${what} is called '${name}'${hint}`, offset === undefined ? {} : { offset });
  }
  return index;
}

function checkAt(
  context: Context,
  scope: Scope,
  text: NotationText,
  path: Path,
  dimension: Dimension | undefined,
): Expression | undefined {
  context.texts.push({ path, text: String(text) });
  const { expression, faults } = checkText(String(text), noting(context, scope, path), dimension);
  for (const f of faults) fault(context, path, f.message, { offset: f.start });
  if (expression?.kind === 'constant' && !Number.isFinite(expression.value)) {
    fault(context, path, `found ${String(text)}, which is ${expression.value}, expected a number that fits`);
    return undefined;
  }
  return expression;
}

/** The same scope, which notes what is read at a path of the document. */
export const noting = (context: Context, scope: Scope, path: Path): Scope => ({
  ...scope,
  mention: (mention) => void context.references.push({ ...mention, use: 'read', path }),
});

/** The slot of a fact; one about a zone or a tag of the course comes to be when it is first asked for. */
function slotFor({ facts, zoneTags, tagHits }: Context, ref: FactRef): number | undefined {
  const { fact, of, tag } = ref;
  if (fact === 'inside' && of !== undefined && !zoneTags.includes(of)) zoneTags.push(of);
  else if (fact === 'hits' && of !== undefined && tag !== undefined) {
    if (!tagHits.some((hit) => hit.probe === of && hit.tag === tag)) tagHits.push({ probe: of, tag });
  } else if (fact !== 'inside') return facts.slots.get(idOfRef(ref));
  return addFact(facts, ref);
}

function collectNames(file: MovesetFile): Record<ThingKind, string[]> {
  const controls = Object.entries(file.controls ?? {});
  const states: string[] = [];
  const collect = (list: MovesetFile['lanes'][number]['states']): void => {
    for (const [name, state] of Object.entries(list)) {
      states.push(name);
      if (state.states !== undefined) collect(state.states);
    }
  };
  for (const lane of file.lanes) collect(lane.states);
  return {
    button: controls.filter(([, c]) => 'button' in c).map(([name]) => name),
    axis: controls.filter(([, c]) => 'axis' in c).map(([name]) => name),
    aim: controls.filter(([, c]) => 'aim' in c).map(([name]) => name),
    probe: Object.keys(file.body.probes ?? {}),
    timer: Object.keys(file.timers ?? {}),
    cooldown: Object.keys(file.cooldowns ?? {}),
    state: states,
    stance: Object.keys(file.body.stances),
    ability: Object.keys(file.abilities ?? {}),
    event: collectEvents(file),
    tether: Object.keys(file.tethers ?? {}),
    zone: [],
  };
}

/** Events need no declaration: what some effect raises is an event. */
function collectEvents(file: MovesetFile): string[] {
  const events = new Set<string>();
  const see = (effects: string | string[] | undefined): void => {
    for (const text of [effects ?? []].flat()) {
      const parsed = parseEffect(text);
      if (
        parsed.ok &&
        parsed.value.kind === 'verb' &&
        parsed.value.verb === 'raise' &&
        parsed.value.words[0] !== undefined
      ) {
        events.add(parsed.value.words[0].text);
      }
    }
  };
  const walk = (list: MovesetFile['lanes'][number]['states']): void => {
    for (const state of Object.values(list)) {
      see(state.enter);
      see(state.exit);
      see(state.each);
      if (state.states !== undefined) walk(state.states);
    }
  };
  for (const lane of file.lanes) {
    walk(lane.states);
    for (const crossing of lane.crossings ?? []) see(crossing.do);
  }
  return [...events];
}

/** Names that the notation needs for itself cannot be given, and values share one space of names. */
function checkNames(context: Context): void {
  const { file } = context;
  for (const section of [
    'dials',
    'variables',
    'controls',
    'timers',
    'cooldowns',
    'abilities',
    'tethers',
  ] as const) {
    for (const name of Object.keys(file[section] ?? {})) {
      if (WORDS.has(name))
        fault(
          context,
          [section, name],
          `the name '${name}' is a word of the notation, expected another name`,
          { key: true },
        );
    }
  }
  for (const [first, second] of [
    ['dials', 'variables'],
    ['variables', 'cooldowns'],
  ] as const) {
    for (const name of Object.keys(file[second] ?? {})) {
      if (Object.hasOwn(file[first] ?? {}, name))
        fault(
          context,
          [second, name],
          `the name '${name}' is also one of the ${first}, expected another name`,
          { key: true },
        );
    }
  }
}

function allocateFacts(context: Context): void {
  const { facts, names, file } = context;
  for (const fact of keysOf(FACTS)) if (fact !== 'elapsed') addFact(facts, { fact });
  for (const fact of keysOf(FACTS_OF)) {
    const { of, also } = FACTS_OF[fact];
    if (also === undefined) for (const name of names[of]) addFact(facts, { fact, of: name });
  }
  for (const of of names.state) addFact(facts, { fact: 'elapsed', of });
  for (const { name } of file.lanes) addFact(facts, { fact: 'laneElapsed', of: name });
  for (const of of Object.keys(file.variables ?? {})) addFact(facts, { fact: 'variable', of });
}

const keysOf = <K extends string>(table: Readonly<Record<K, unknown>>): K[] => Object.keys(table) as K[];

function variableOf(file: MovesetFile, name: string, context: Context): Dimension | undefined {
  const variable = own(file.variables, name);
  if (variable === undefined) return undefined;
  if ('flag' in variable) return TRUTH;
  return 'count' in variable ? PLAIN : numberDimension(context, name);
}

/** The dimension of a number variable is that of the quantity it starts with; SPEED only as a stand-in after a fault. */
export function numberDimension(context: Context, name: string): Dimension {
  const variable = present(present(context.file.variables)[name]);
  const text = 'number' in variable ? String(variable.number) : '0';
  return (
    checkText(text, { ...context.scope, variable: () => undefined, slot: () => undefined }).expression
      ?.dimension ?? SPEED
  );
}
