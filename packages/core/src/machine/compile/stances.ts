import { present } from '../../present.js';
import { didYouMean, type Path } from '../../model/index.js';
import { LENGTH, TIME } from '../../notation/index.js';
import type { Part } from '../../world/index.js';
import { type Context, constantAt, fault, ticksAt } from './context.js';
import type { Stance } from '../definition/machine.js';
import { addFact } from '../definition/facts.js';

/** The stances that the file names. */
export const compileStances = (context: Context): Stance[] =>
  Object.entries(context.file.body.stances).map(([name, stance]): Stance => {
    const path: Path = ['body', 'stances', name];
    const given =
      'parts' in stance
        ? Object.entries(stance.parts).map(([part, shape]) => ({
            part,
            shape,
            at: [...path, 'parts', part] as Path,
          }))
        : [{ part: 'body', shape: { ...stance, offset: undefined }, at: path }];
    if (given.length === 0)
      fault(context, [...path, 'parts'], 'found a stance without parts, expected at least one');
    const parts = given.map(({ part, shape, at }): Part => {
      const size = (key: 'width' | 'height'): number =>
        constantAt(context, shape[key], [...at, key], LENGTH, 0.01);
      const offset = (shape.offset ?? [0, 0]).map((o, i) =>
        constantAt(context, o, [...at, 'offset', i], LENGTH),
      );
      return {
        name: part,
        shape: shape.shape,
        width: size('width'),
        height: size('height'),
        ox: present(offset[0]),
        oy: present(offset[1]),
      };
    });
    return {
      ...measured(name, parts),
      anchor: stance.anchor ?? 'feet',
      blend: stance.blend === undefined ? 1 : ticksAt(context, stance.blend, [...path, 'blend'], TIME),
      path,
    };
  });

const measured = (name: string, parts: Part[]): Omit<Stance, 'path'> => ({
  name,
  parts,
  anchor: 'feet',
  blend: 1,
  hidden: false,
  step: false,
  bottom: Math.min(...parts.map((p) => p.oy)),
  top: Math.max(...parts.map((p) => p.oy + p.height)),
});

/** The stance that is left when some parts of one are switched off; the same one for the same parts. */
export function stanceWithout(
  context: Context,
  base: number,
  without: readonly string[],
  path: Path,
): number {
  const stance = context.stances[base];
  if (stance === undefined) {
    fault(
      context,
      path,
      "found 'without' on a state that has no stance, expected a stance to take parts from",
    );
    return -1;
  }
  const known = stance.parts.map((p) => p.name);
  for (const [i, part] of without.entries()) {
    if (!known.includes(part)) {
      fault(
        context,
        without.length > 1 ? [...path, i] : path,
        `the stance ${stance.name} has no part '${part}'${didYouMean(part, known) || `, expected one of ${known.join(', ')}`}`,
      );
    }
  }
  const parts = stance.parts.filter((p) => !without.includes(p.name));
  if (parts.length === 0) {
    fault(
      context,
      path,
      `no part of the stance ${stance.name} is left, expected at least one that stays solid`,
    );
    return base;
  }
  const name = `${stance.name} without ${[...without].sort().join(' and ')}`;
  const existing = context.stances.findIndex((s) => s.name === name);
  if (existing >= 0) return existing;
  addFact(context.facts, { fact: 'fits', of: name });
  return (
    context.stances.push({
      ...measured(name, parts),
      anchor: stance.anchor,
      hidden: true,
      path: stance.path,
    }) - 1
  );
}

/** Adds the steps of every blend to the stances; the result says where each begins, by `from>to`. */
export function addBlends({ stances, idle }: Context): Map<string, number> {
  const blends = new Map<string, number>();
  const whole = [...stances];
  whole.forEach((to, t) => {
    if (to.blend > 1 && !whole.some((from) => from !== to && from.parts.length === to.parts.length))
      idle.push({
        field: 'blend',
        because: `no other stance has as many parts as ${to.name}`,
        path: [...to.path, 'blend'],
      });
    whole.forEach((from, f) => {
      if (f === t || to.blend < 2 || from.parts.length !== to.parts.length) return;
      blends.set(`${f}>${t}`, stances.length);
      for (let k = 1; k < to.blend; k++) {
        const share = k / to.blend;
        const mix = (a: number, b: number): number => a + (b - a) * share;
        const parts = to.parts.map((p, i): Part => {
          const old = present(from.parts[i]);
          return {
            ...p,
            width: mix(old.width, p.width),
            height: mix(old.height, p.height),
            ox: mix(old.ox, p.ox),
            oy: mix(old.oy, p.oy),
          };
        });
        stances.push({
          ...measured(to.name, parts),
          anchor: to.anchor,
          hidden: true,
          step: true,
          path: to.path,
        });
      }
    });
  });
  return blends;
}
