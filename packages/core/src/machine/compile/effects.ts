import { didYouMean, type Path } from '../../model/index.js';
import {
  check,
  PLAIN,
  parseEffect,
  type Dimension,
  type EffectSyntax,
  type FactRef,
  type SymbolKind,
  type TextSpan,
  SPEED,
} from '../../notation/index.js';
import { type Context, fault, indexAt, noting } from './context.js';
import type { Effect, Reference } from '../definition/machine.js';
import { slotOf } from '../definition/facts.js';

/** The verbs of effects, with what follows each; for errors, completion and the reference. */
export const VERBS: Record<string, string> = {
  start: 'a timer',
  stop: 'a timer',
  spend: 'a count or a cooldown',
  refill: 'a count or a cooldown',
  face: 'left, right, turn, away (from the touched wall) or an axis',
  lock: 'an ability',
  unlock: 'an ability',
  raise: 'an event',
  cast: 'a tether',
  release: 'a tether',
  drop: 'through (the one-way platform underfoot)',
};

/** Compiles `enter`, `exit`, `each` or `do`: one effect or a list of them. */
export function compileEffects(
  context: Context,
  effects: string | string[] | undefined,
  path: Path,
  elapsed: FactRef,
): Effect[] {
  const list = [effects ?? []].flat();
  return list.flatMap((text, i): Effect[] => {
    const at = Array.isArray(effects) ? [...path, i] : path;
    context.texts.push({ path: at, text });
    const parsed = parseEffect(text);
    if (!parsed.ok) {
      fault(context, at, parsed.fault.message, { offset: parsed.fault.start });
      return [];
    }
    const compiled =
      parsed.value.kind === 'write'
        ? compileWrite(context, parsed.value, at, elapsed)
        : compileVerb(context, parsed.value, at);
    return compiled === undefined ? [] : [{ text, path: at, ...compiled } as Effect];
  });
}

type Bare<T> = T extends unknown ? Omit<T, 'text' | 'path'> : never;

function compileWrite(
  context: Context,
  write: Extract<EffectSyntax, { kind: 'write' }>,
  path: Path,
  elapsed: FactRef,
): Bare<Effect> | undefined {
  const { name, op } = write;
  const value = (dimension: Dimension) => {
    const scope = noting(context, { ...context.scope, elapsed }, path);
    const { expression, faults } = check(write.value, scope, dimension);
    for (const f of faults) fault(context, path, f.message, { offset: f.start });
    return expression;
  };
  if (name === 'vx' || name === 'vy') {
    const expression = value(SPEED);
    return expression && { kind: 'velocity', channel: name, op, value: expression };
  }
  const variables = Object.keys(context.file.variables ?? {});
  const index = variables.indexOf(name);
  if (index < 0) {
    fault(
      context,
      path,
      `'${name}' cannot be written${didYouMean(name, [...variables, 'vx', 'vy'])}, expected vx, vy or a variable`,
      { offset: write.nameSpan.start },
    );
    return undefined;
  }
  const dimension = context.scope.variable(name) ?? PLAIN;
  noteWord(context, 'variable', 'written', { text: name, ...write.nameSpan }, path);
  if (dimension.truth && op !== ':=') {
    fault(context, path, `found '${op}' on the flag '${name}', expected ':='`, {
      offset: write.nameSpan.start,
    });
    return undefined;
  }
  const expression = value(dimension);
  return expression && { kind: 'variable', variable: index, op, value: expression };
}

function compileVerb(
  context: Context,
  effect: Extract<EffectSyntax, { kind: 'verb' }>,
  path: Path,
): Bare<Effect> | undefined {
  const { verb, words } = effect;
  const needs = Object.hasOwn(VERBS, verb) ? VERBS[verb] : undefined;
  if (needs === undefined) {
    const wrote = words.length === 0 ? ` (to write a value, use ':=')` : '';
    fault(
      context,
      path,
      `no effect is called '${verb}'${didYouMean(verb, Object.keys(VERBS)) || `, expected one of ${Object.keys(VERBS).join(', ')}`}${wrote}`,
      { offset: effect.start },
    );
    return undefined;
  }
  const word = words[0];
  if (word === undefined || words.length > 1) {
    fault(context, path, `found ${words.length} words after '${verb}', expected ${needs}`, {
      offset: (words[1] ?? effect).start,
    });
    return undefined;
  }
  switch (verb) {
    case 'start':
    case 'stop':
      return one(context, 'timer', word, path, (timer) => ({ kind: verb, timer }));
    case 'lock':
    case 'unlock':
      return one(context, 'ability', word, path, (ability) => ({ kind: verb, ability }));
    case 'raise':
      return one(context, 'event', word, path, (event) => ({ kind: 'raise', event }));
    case 'cast':
    case 'release':
      return one(context, 'tether', word, path, (tether) => ({ kind: verb, tether }));
    case 'drop':
      if (word.text === 'through') return { kind: 'drop' };
      fault(context, path, `found '${word.text}' after 'drop', expected 'through'`, { offset: word.start });
      return undefined;
    case 'face':
      return compileFace(context, word, path);
    default:
      return compileSpend(context, verb as 'spend' | 'refill', word, path);
  }
}

type Word = TextSpan & { text: string };

/** Notes that a word of an effect names something. */
function noteWord(
  { references }: Context,
  kind: SymbolKind,
  use: Reference['use'],
  { text, start, end }: Word,
  path: Path,
): void {
  references.push({ kind, name: text, use, path, span: { start, end } });
}

function one(
  context: Context,
  kind: 'timer' | 'ability' | 'event' | 'tether',
  word: Word,
  path: Path,
  make: (index: number) => Bare<Effect>,
): Bare<Effect> | undefined {
  const index = indexAt(context, { what: kind, list: context.names[kind] }, word.text, path, word.start);
  if (index < 0) return undefined;
  noteWord(context, kind, 'written', word, path);
  return make(index);
}

function compileFace(context: Context, word: Word, path: Path): Bare<Effect> | undefined {
  const way = word.text;
  if (way === 'left' || way === 'right' || way === 'turn' || way === 'away')
    return { kind: 'face', way, slot: -1 };
  if (context.names.axis.includes(way)) {
    noteWord(context, 'axis', 'read', word, path);
    return { kind: 'face', way: 'axis', slot: slotOf(context.facts, 'axis', way) };
  }
  fault(
    context,
    path,
    `found '${way}' after 'face'${didYouMean(way, context.names.axis)}, expected ${VERBS['face']}`,
    { offset: word.start },
  );
  return undefined;
}

function compileSpend(
  context: Context,
  kind: 'spend' | 'refill',
  word: Word,
  path: Path,
): Bare<Effect> | undefined {
  const cooldown = context.names.cooldown.indexOf(word.text);
  if (cooldown >= 0) {
    noteWord(context, 'cooldown', 'written', word, path);
    return { kind, what: 'cooldown', index: cooldown };
  }
  const variables = Object.entries(context.file.variables ?? {});
  const counts = variables.filter(([, v]) => 'count' in v).map(([name]) => name);
  if (
    indexAt(
      context,
      { what: 'count or cooldown', list: [...counts, ...context.names.cooldown] },
      word.text,
      path,
      word.start,
    ) < 0
  )
    return undefined;
  noteWord(context, 'variable', 'written', word, path);
  return { kind, what: 'count', index: variables.findIndex(([name]) => name === word.text) };
}
