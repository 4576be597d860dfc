import type { Machine } from '@glenmark/core/machine';
import type { ReachStanding } from '../../data/reach-work';
import { KINDS } from '../../shared/ui/kind-mark';
import { colourOf, type Painted, shadeOf, type Shows } from './raster-picture';

/** How much of the course shows through. */
const OPACITY = 0.72;

/** The colour of each reached cell, by what is to be seen. */
export const painter =
  (standing: ReachStanding | undefined, shows: Shows, machine: Machine | undefined) =>
  (colour: (token: string) => string): ((cell: number) => Painted) => {
    if (standing === undefined || machine === undefined) return () => undefined;
    const { raster, without } = standing;
    const { ticks, states } = raster;
    if (shows === 'soon') {
      const most = ticks.reduce((a, b) => Math.max(a, b), 1);
      const [red, green, blue] = colourOf(colour('tide'), 1);
      return (cell) =>
        ticks[cell]! < 0
          ? undefined
          : [red, green, blue, Math.round(255 * shadeOf(ticks[cell]!, machine.rate, most))];
    }
    if (shows === 'only') {
      const [both, only] = [colourOf(colour('moss'), 0.35), colourOf(colour('amber'), OPACITY)];
      return (cell) => {
        if (ticks[cell]! < 0) return undefined;
        return without === undefined || without.ticks[cell]! >= 0 ? both : only;
      };
    }
    const kinds = machine.states.map(({ kind }) => colourOf(colour(KINDS[kind].colour), OPACITY));
    return (cell) => (ticks[cell]! < 0 ? undefined : kinds[states[cell]!]);
  };
