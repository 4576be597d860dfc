import type { TapeEntry } from '../../data/library';
import type { Met, WallTape } from '../../data/wall';

/** One cell: what it says, and where in the run it was decided. */
export interface WallCell {
  word: string;
  /** In full, for whoever cannot see it or points at it. */
  says: string;
  isMissed: boolean;
  tick: number | undefined;
}

/** One expectation of a tape, with a cell for each tick rate; `tape` only on the first of a tape. */
export interface WallRow {
  id: string;
  tape: string;
  text: string;
  cells: WallCell[];
}

/** The rows of all tapes that expect something. */
export const wallRows = (
  tapes: readonly TapeEntry[],
  wall: readonly WallTape[],
  rates: readonly number[],
): WallRow[] =>
  tapes.flatMap(({ tape }, i): WallRow[] =>
    (wall[i]?.expectations ?? []).map(({ text, at }, e) => ({
      id: tape.id,
      tape: e === 0 ? tape.name : '',
      text,
      cells: at.map((met, r) => cellOf(met, wall[i]?.wrong[r], rates[r]!)),
    })),
  );

function cellOf(met: Met | undefined, wrong: string | undefined, rate: number): WallCell {
  if (met === undefined)
    return {
      word: '–',
      says: wrong ?? $localize`not played at ${rate}`,
      isMissed: wrong !== undefined,
      tick: undefined,
    };
  const { passed, tick, seen } = met;
  if (passed) return { word: '✓', says: $localize`met at ${rate}`, isMissed: false, tick: undefined };
  return {
    word: `✕ ${tick}`,
    says:
      seen === undefined
        ? $localize`missed at ${rate}, at tick ${tick}`
        : $localize`missed at ${rate}, at tick ${tick}\: ${seen}`,
    isMissed: true,
    tick,
  };
}
