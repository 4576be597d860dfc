import type { Machine } from '@glenmark/core/machine';
import type { ReachStanding } from '../../data/reach-work';

/** What is known of a reached cell, in a sentence. */
export function cellWords(
  { x, y, cell }: { x: number; y: number; cell: number },
  { raster, without }: ReachStanding,
  machine: Machine,
  ability: string,
): string {
  const seconds = (raster.ticks[cell]! / machine.rate).toFixed(2);
  const state = machine.states[raster.states[cell]!]?.name ?? '';
  const at = `x ${x.toFixed(2)} m, y ${y.toFixed(2)} m`;
  const said = $localize`${at}\: the soonest way known takes ${seconds} s, in ${state}.`;
  if (without === undefined) return said;
  const other = without.ticks[cell]!;
  return other < 0
    ? `${said} ${$localize`Without ${ability} not reached, as far as this search went.`}`
    : `${said} ${$localize`Without ${ability} after ${(other / machine.rate).toFixed(2)} s.`}`;
}

/** What is known of a pit, in a sentence. */
export function pitWords(
  { squares, ticks }: NonNullable<ReachStanding['pits']>[number],
  rate: number,
): string {
  const [minX, maxX] = [Math.min(...squares.map((s) => s.minX)), Math.max(...squares.map((s) => s.maxX))];
  const y = Math.min(...squares.map((s) => s.minY)).toFixed(2);
  return $localize`x ${minX.toFixed(0)} to ${maxX.toFixed(0)} m, y ${y} m, from ${(ticks / rate).toFixed(2)} s on`;
}

/** What came of a goal: proved out of reach, reached, or how near. */
export function goalWords({ beyond, nearest, isOver }: ReachStanding): {
  text: string;
  tone: 'ok' | 'bad' | 'doubt';
} {
  if (beyond?.why === 'walledOff')
    return { text: $localize`Proved\: no way through the solids leads there from any spawn.`, tone: 'bad' };
  if (beyond?.why === 'tooHigh') {
    const [height, sideways] = [beyond.height.toFixed(2), beyond.sideways.toFixed(1)];
    return {
      text: $localize`Proved\: the body rises no more than ${height} m above what it stood on, going no faster than ${sideways} m/s sideways, and the goal is higher than that from everywhere.`,
      tone: 'bad',
    };
  }
  if (nearest === 0) return { text: $localize`Reached.`, tone: 'ok' };
  if (nearest === undefined) return { text: $localize`Not begun.`, tone: 'doubt' };
  const near = nearest.toFixed(2);
  return {
    text: isOver
      ? $localize`Not reached, as far as this search went. The nearest was ${near} m away.`
      : $localize`Looking. The nearest so far is ${near} m away.`,
    tone: 'doubt',
  };
}
