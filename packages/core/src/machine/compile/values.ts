import { present } from '../../present.js';
import type { MovesetFile, NotationText, Path } from '../../model/index.js';
import { ANGLE, LENGTH, parseExpression, PLAIN, type Syntax, TIME, TRUTH } from '../../notation/index.js';
import {
  type Context,
  constantAt,
  expressionAt,
  fault,
  indexAt,
  noteNamed,
  numberDimension,
  ticksAt,
} from './context.js';
import type {
  Ability,
  Control,
  Cooldown,
  Dial,
  Probe,
  Tether,
  Timer,
  Variable,
} from '../definition/machine.js';
import type { Core } from '../../world/index.js';
import { unitVector } from '../trigonometry.js';

/** The tables of a moveset beside its lanes: each function turns one section of the file into indexes and numbers. */

export const compileDials = (context: Context): Dial[] =>
  Object.entries(context.file.dials ?? {}).flatMap(([name, dial]): Dial[] => {
    const result = context.constant(name);
    if (typeof result !== 'object') return [];
    const path: Path = ['dials', name];
    const ranged = typeof dial === 'object' ? dial : { value: dial };
    const bounds: DialRange = 'min' in ranged || 'max' in ranged || 'step' in ranged ? ranged : {};
    const at = (bound: keyof DialRange): number | undefined =>
      bounds[bound] === undefined
        ? undefined
        : constantAt(context, bounds[bound], [...path, bound], result.dimension);
    const parsed = parseExpression(String(ranged.value));
    return [
      {
        name,
        ...result,
        min: at('min') ?? -Infinity,
        max: at('max') ?? Infinity,
        step: at('step'),
        derived: parsed.ok && readsNames(parsed.value),
        path,
      },
    ];
  });

type DialRange = Partial<Record<'min' | 'max' | 'step', NotationText>>;

const readsNames = (syntax: Syntax): boolean =>
  Object.values(syntax).some(
    (part) =>
      typeof part === 'object' &&
      part !== null &&
      [part].flat().some((p) => 'kind' in (p as object) && readsNames(p as Syntax)),
  ) || syntax.kind === 'name';

export const compileControls = (file: MovesetFile): Control[] =>
  Object.entries(file.controls ?? {}).map(([name, control]): Control => {
    const path: Path = ['controls', name];
    if ('button' in control) {
      const pad = [control.pad ?? []].flat().map((n) => `button${n}`);
      return { name, kind: 'button', keys: [control.button].flat(), negative: [], positive: [], pad, path };
    }
    if ('aim' in control) {
      return {
        name,
        kind: 'aim',
        keys: [control.aim],
        negative: [],
        positive: [],
        pad: [control.pad ?? []].flat(),
        path,
      };
    }
    const { negative, positive, pad } = control.axis;
    const ends = { negative: [negative ?? []].flat(), positive: [positive ?? []].flat() };
    return {
      name,
      kind: 'axis',
      keys: [...ends.negative, ...ends.positive],
      ...ends,
      pad: [pad ?? []].flat(),
      path,
    };
  });

const TOWARD: Record<string, { x: number; y: number }> = {
  ahead: { x: 1, y: 0 },
  behind: { x: -1, y: 0 },
  up: { x: 0, y: 1 },
  down: { x: 0, y: -1 },
};

/** Compiles the probes; `casts` collects the shapes that they cast. */
export const compileProbes = (context: Context, casts: Core[]): Probe[] =>
  Object.entries(context.file.body.probes ?? {}).map(([name, probe]): Probe => {
    const path: Path = ['body', 'probes', name];
    const length = (text: NotationText, ...steps: (string | number)[]): number =>
      constantAt(context, text, [...path, ...steps], LENGTH, 0);
    const signed = probe.from.map((p, i) => constantAt(context, p, [...path, 'from', i], LENGTH));
    let cast = 0;
    if (probe.shape !== undefined) {
      const core = { cx: 0, cy: 0, hx: 0, hy: 0, radius: 0 };
      if ('circle' in probe.shape) core.radius = length(probe.shape.circle, 'shape', 'circle');
      else
        [core.hx, core.hy] = [
          length(probe.shape.box[0], 'shape', 'box', 0) / 2,
          length(probe.shape.box[1], 'shape', 'box', 1) / 2,
        ];
      cast = casts.push(core);
    }
    const named = Object.hasOwn(TOWARD, probe.toward) ? TOWARD[probe.toward] : undefined;
    const aims = context.names.aim.includes(probe.toward);
    if (aims) noteNamed(context, 'aim', probe.toward, [...path, 'toward']);
    probe.sees?.forEach((tag, i) => noteNamed(context, 'tag', tag, [...path, 'sees', i]));
    const direction =
      named ??
      (aims
        ? { aim: probe.toward }
        : unitVector(constantAt(context, probe.toward, [...path, 'toward'], ANGLE)));
    const reach = constantAt(context, probe.reach, [...path, 'reach'], LENGTH, 0.001);
    return {
      name,
      x: present(signed[0]),
      y: present(signed[1]),
      direction,
      cast,
      reach,
      sees: probe.sees,
      path,
    };
  });

export const compileTethers = (context: Context): Tether[] =>
  Object.entries(context.file.tethers ?? {}).map(([name, tether]): Tether => {
    const path: Path = ['tethers', name];
    if (tether.aim !== undefined) {
      const at = [...path, 'aim'];
      if (indexAt(context, { what: 'aim', list: context.names.aim }, tether.aim, at) >= 0)
        noteNamed(context, 'aim', tether.aim, at);
    }
    tether.sees.forEach((tag, i) => noteNamed(context, 'tag', tag, [...path, 'sees', i]));
    return {
      name,
      reach: constantAt(context, tether.reach, [...path, 'reach'], LENGTH, 0.01),
      aim: tether.aim,
      sees: tether.sees,
      most: tether.most ?? 1,
      path,
    };
  });

export const compileVariables = (context: Context): Variable[] =>
  Object.entries(context.file.variables ?? {}).map(([name, variable]): Variable => {
    const path: Path = ['variables', name];
    const back = 'refill' in variable ? 'refill' : 'reset';
    const refill = expressionAt(
      context,
      (variable as Record<string, string | undefined>)[back],
      [...path, back],
      TRUTH,
    );
    if ('flag' in variable)
      return {
        name,
        kind: 'flag',
        dimension: TRUTH,
        initial: variable.flag ? 1 : 0,
        max: Infinity,
        refill,
        path,
      };
    if ('count' in variable) {
      if (variable.count > variable.max)
        fault(
          context,
          [...path, 'count'],
          `found ${variable.count}, expected at most its max of ${variable.max}`,
        );
      return {
        name,
        kind: 'count',
        dimension: PLAIN,
        initial: variable.count,
        max: variable.max,
        refill,
        path,
      };
    }
    const dimension = numberDimension(context, name);
    const initial = constantAt(context, variable.number, [...path, 'number'], dimension);
    return { name, kind: 'number', dimension, initial, max: Infinity, refill, path };
  });

export const compileTimers = (context: Context): Timer[] =>
  Object.entries(context.file.timers ?? {}).map(([name, timer]): Timer => {
    const path: Path = ['timers', name];
    return {
      name,
      ticks: ticksAt(context, timer.length, [...path, 'length'], TIME),
      runs: expressionAt(context, timer.runs, [...path, 'runs'], TRUTH),
      again: timer.again ?? 'restart',
      path,
    };
  });

export const compileCooldowns = (context: Context): Cooldown[] =>
  Object.entries(context.file.cooldowns ?? {}).map(([name, cooldown]): Cooldown => {
    const path: Path = ['cooldowns', name];
    if (cooldown.order !== undefined && (cooldown.charges ?? 1) === 1)
      context.idle.push({
        field: 'order',
        because: `${name} has one charge, which comes back alone`,
        path: [...path, 'order'],
      });
    return {
      name,
      charges: cooldown.charges ?? 1,
      ticks: ticksAt(context, cooldown.recharge, [...path, 'recharge'], TIME),
      order: cooldown.order ?? 'oneByOne',
      refill: expressionAt(context, cooldown.refill, [...path, 'refill'], TRUTH),
      from: cooldown.from ?? 'spend',
      path,
    };
  });

export const compileAbilities = (file: MovesetFile): Ability[] =>
  Object.entries(file.abilities ?? {}).map(([name, ability]) => ({
    name,
    locked: ability.locked ?? false,
    path: ['abilities', name],
  }));
