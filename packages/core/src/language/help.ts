import { CATALOGUE, type Finding } from '../findings/index.js';
import {
  chainOf,
  findUses,
  leavesOf,
  type Machine,
  type Occurrence,
  type State,
  type Variable,
} from '../machine/index.js';
import {
  type Kind,
  type MovesetFile,
  placeAt,
  type Place,
  type Source,
  type Stretch,
} from '../model/index.js';
import {
  type Dimension,
  dimensionName,
  FACTS,
  FACTS_OF,
  formatValue,
  FUNCTIONS,
  isNamedFact,
  isPlainFact,
  LENGTH,
  print,
  type SymbolKind,
  TIME,
  unitOf,
} from '../notation/index.js';
import { LAUNCH, loneState, type LoneState, responding, type Response } from '../run/index.js';
import { finished } from '../steps.js';
import { present } from '../present.js';
import { fieldAt } from './fields.js';

/** What is known of something at a place of a text. */
export interface Help extends Stretch {
  title: string;
  lines: string[];
}

/** What help is made from: a moveset that can be read, and what was found in it so far. */
export interface Known {
  machine: Machine;
  file: MovesetFile;
  findings: readonly Finding[];
}

/**
 * What is known of the name, the fact, the function or the key at an offset; undefined where there is nothing to say.
 * `known` is that of the moveset, or of the one that a tape is played with.
 */
export function helpAt(
  { text, kind, source }: { text: string; kind: Kind | undefined; source: Source | undefined },
  known: Known | undefined,
  occurrence: Occurrence | undefined,
  offset: number,
): Help | undefined {
  if (occurrence !== undefined && known !== undefined) {
    const { start, end, name } = occurrence;
    return { start, end, ...helpOfName(known, occurrence.kind, name) };
  }
  const place = source === undefined ? undefined : placeAt(source, offset);
  if (place?.isKey === true) return kind === undefined ? undefined : helpOfKey(kind, known, place);
  const word = wordAt(text, offset);
  const help = word === undefined ? undefined : helpOfWord(word.text);
  return word === undefined || help === undefined ? undefined : { ...help, start: word.start, end: word.end };
}

function wordAt(text: string, offset: number): (Stretch & { text: string }) | undefined {
  const before = /\w*$/.exec(text.slice(0, offset))?.[0] ?? '';
  const after = /^\w*/.exec(text.slice(offset))?.[0] ?? '';
  const start = offset - before.length;
  const word = before + after;
  return word === '' ? undefined : { text: word, start, end: start + word.length };
}

/** What a fact or a function of the notation means; undefined for any other word. */
export function helpOfWord(word: string): { title: string; lines: string[] } | undefined {
  if (isPlainFact(word) || isNamedFact(word)) {
    const { help, dimension, example } = isPlainFact(word) ? FACTS[word] : FACTS_OF[word];
    return { title: `${word}: ${kindWords(dimension)}`, lines: [help, `such as \`${example}\``] };
  }
  const entry = Object.hasOwn(FUNCTIONS, word) ? FUNCTIONS[word] : undefined;
  return entry && { title: `${word}: a function`, lines: [entry.help] };
}

/** "a speed, in m/s". */
const kindWords = (dimension: Dimension): string => {
  const unit = unitOf(dimension);
  const name = dimensionName(dimension);
  return unit === '' || name.includes(unit) ? name : `${name}, in ${unit}`;
};

function helpOfKey(kind: Kind, known: Known | undefined, { path, start, end }: Place): Help | undefined {
  const field = fieldAt(
    kind,
    path.map((step) => (typeof step === 'number' ? '-' : step)),
  );
  if (field === undefined) return undefined;
  const found = known === undefined ? [] : foundAt(known, path);
  return { title: field.name, lines: [field.help, ...found], start, end };
}

/** What was found of the crossing that a path is in. */
function foundAt({ machine, findings }: Known, path: Place['path']): string[] {
  const [section, lane, list, index] = path;
  if (section !== 'lanes' || list !== 'crossings' || typeof lane !== 'number') return [];
  const name = machine.lanes[lane]?.name;
  return verdictOn(findings.filter((f) => f.lane === name && f.crossing?.index === index));
}

/** What the findings on a thing come to. */
const verdictOn = (findings: readonly Finding[]): string[] =>
  findings.length === 0
    ? ['Nothing found.']
    : findings.map(
        ({ code, certainty, sentence, accepted }) =>
          `${code} ${CATALOGUE[code].name}, ${accepted === undefined ? certainty : 'accepted'}: ${sentence}`,
      );

/** What a name stands for, and what is known of it. */
function helpOfName(known: Known, kind: SymbolKind, name: string): { title: string; lines: string[] } {
  const { machine, file } = known;
  const noted = (section: Readonly<Record<string, unknown>> | undefined): string[] => {
    const note = (section?.[name] as { note?: unknown } | undefined)?.note;
    return typeof note === 'string' ? [note] : [];
  };
  const of = <T extends { name: string }>(list: readonly T[]): T =>
    present(list.find((t) => t.name === name));
  const said = (title: string, ...lines: (string | string[])[]) => ({ title, lines: lines.flat() });
  const length = (m: number): string => formatValue(m, LENGTH);
  const time = (ticks: number): string => formatValue(ticks * machine.dt, TIME, machine.rate);
  switch (kind) {
    case 'dial': {
      if (name === 'gravity')
        return said(
          `gravity: ${kindWords({ truth: false, m: 1, s: -2, deg: 0 })}`,
          `${machine.gravity} m/s2`,
        );
      const { dimension, value, min, max, derived } = of(machine.dials);
      const range = [
        ...(Number.isFinite(min) ? [`from ${formatValue(min, dimension)}`] : []),
        ...(Number.isFinite(max) ? [`to ${formatValue(max, dimension)}`] : []),
      ].join(' ');
      return said(
        `${name}: a dial, ${kindWords(dimension)}`,
        `${formatValue(value, dimension, machine.rate)}${derived ? ', worked out from others' : ''}`,
        range === '' ? [] : range,
        noted(file.dials),
      );
    }
    case 'variable':
      return said(`${name}: ${variableWords(of(machine.variables))}`, noted(file.variables));
    case 'timer': {
      const { ticks, runs } = of(machine.timers);
      const when = runs === undefined ? [] : [`runs while \`${print(runs.syntax)}\``];
      return said(`${name}: a timer of ${time(ticks)}`, when, noted(file.timers));
    }
    case 'cooldown': {
      const { ticks, charges } = of(machine.cooldowns);
      const count = `${charges} charge${charges === 1 ? '' : 's'}`;
      return said(`${name}: a cooldown`, `${count}, ${time(ticks)} to recharge`, noted(file.cooldowns));
    }
    case 'button':
    case 'axis':
    case 'aim': {
      const { keys, pad } = of(machine.controls);
      const bound = [...keys, ...pad.map((each) => `pad ${each}`)];
      return said(
        `${name}: ${kind === 'button' ? 'a button' : `an ${kind}`}`,
        bound.length === 0 ? 'bound to nothing' : bound.join(', '),
        noted(file.controls),
      );
    }
    case 'probe':
      return said(`${name}: a probe`, `reaches ${length(of(machine.probes).reach)}`, noted(file.body.probes));
    case 'tether':
      return said(`${name}: a tether`, `reaches ${length(of(machine.tethers).reach)}`, noted(file.tethers));
    case 'stance': {
      const { bottom, top, parts } = of(machine.stances);
      const shape = parts.length === 1 ? '' : `, of ${parts.length} parts`;
      return said(`${name}: a stance`, `${length(top - bottom)} high${shape}`, noted(file.body.stances));
    }
    case 'ability':
      return said(
        `${name}: an ability`,
        of(machine.abilities).locked ? 'locked at first' : 'unlocked from the start',
        noted(file.abilities),
      );
    case 'lane': {
      const lane = of(machine.lanes);
      const found = known.findings.filter((f) => f.lane === name).length;
      return said(
        `${name}: a lane`,
        `${lane.states.length} states and groups, ${lane.crossings.length} crossings`,
        `${found === 0 ? 'Nothing' : found} found.`,
      );
    }
    case 'state':
      return helpOfState(known, of(machine.states));
    case 'event':
      return said(
        `${name}: an event`,
        `raised in ${findUses(machine, 'event', name).filter(({ use }) => use === 'written').length} places`,
      );
    case 'zone':
    case 'tag':
      return said(`${name}: a tag of courses`);
  }
}

const variableWords = ({ kind, dimension, initial, max }: Variable): string =>
  kind === 'flag'
    ? `a flag, ${initial === 1 ? 'set' : 'clear'} at first`
    : kind === 'count'
      ? `a count, ${initial} at first${Number.isFinite(max) ? `, at most ${max}` : ''}`
      : `a number, ${kindWords(dimension)}, ${formatValue(initial, dimension)} at first`;

const KINDS: Readonly<Record<State['kind'], string>> = {
  footed: 'on the ground',
  aloft: 'in the air',
  braced: 'at a wall or ceiling',
  slung: 'on a tether',
  committed: 'committed',
};

function helpOfState({ machine, file, findings }: Known, state: State): { title: string; lines: string[] } {
  const lane = present(machine.lanes[state.lane]);
  const isGroup = state.members.length > 0;
  const around = chainOf(machine, state.index)
    .slice(1)
    .map((s) => present(machine.states[s]).name);
  const within = around.length === 0 ? '' : `, in ${around.join(', in ')}`;
  const members = leavesOf(machine, state.index).map((s) => present(machine.states[s]).name);
  const found = findings.filter(
    (f) => f.lane === lane.name && (isGroup ? [state.name, ...members] : [state.name]).includes(f.state),
  );
  const response = isGroup ? undefined : played(loneState(file, present(file.lanes[state.lane]), state));
  return {
    title: `${state.name}: a ${isGroup ? 'group' : 'state'} of ${lane.name}${within}`,
    lines: [
      isGroup ? `of ${members.join(', ')}` : KINDS[state.kind],
      ...verdictOn(found),
      ...(response === undefined ? [] : responseLines(response)),
    ],
  };
}

/** Responses that were played, by the state with all that moves it: while crossings are written, they stay the same. */
const responses = new Map<string, Response | undefined>();
const MAX_RESPONSES = 50;

function played(alone: LoneState): Response | undefined {
  const key = JSON.stringify(alone);
  if (!responses.has(key)) {
    if (responses.size >= MAX_RESPONSES) responses.clear();
    responses.set(key, finished(responding(alone)));
  }
  return responses.get(key);
}

const seconds = (s: number): string => `${s.toFixed(2)} s`;

/** The figures of a response, a line each. */
function responseLines({ drive, rise }: Response): string[] {
  const lines: string[] = [];
  if (drive !== undefined) {
    const { full, up, stop, slide, turn } = drive;
    const stopped =
      stop === undefined
        ? 'does not stop within a second'
        : `stops in ${seconds(stop)}, ${slide.toFixed(2)} m`;
    const turned = turn === undefined ? '' : `; turns in ${seconds(turn)}`;
    lines.push(
      `Held, the axis gives ${full.toFixed(1)} m/s in ${seconds(up)}; let go, it ${stopped}${turned}.`,
    );
  }
  if (rise !== undefined && rise.apex > 0)
    lines.push(
      `Thrown up at ${LAUNCH} m/s it rises ${rise.apex.toFixed(2)} m in ${seconds(rise.up)}, and is down in ${seconds(rise.down)}.`,
    );
  return lines;
}
