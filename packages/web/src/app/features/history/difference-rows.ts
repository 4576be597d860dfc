import type { Difference } from '@glenmark/core/history';

/** A line of what changed: a thing, or a field of it, with what it said and says. */
export interface DifferenceRow {
  /** Which of the differences it is of, on the first row of each that can be taken back by itself. */
  takesBack: number | undefined;
  what: Difference['what'];
  title: string;
  before: string;
  after: string;
}

const KINDS: Record<Difference['kind'], string> = {
  moveset: $localize`moveset`,
  dial: $localize`dial`,
  control: $localize`control`,
  stance: $localize`stance`,
  probe: $localize`probe`,
  variable: $localize`variable`,
  timer: $localize`timer`,
  cooldown: $localize`cooldown`,
  tether: $localize`tether`,
  ability: $localize`ability`,
  setting: $localize`setting`,
  limit: $localize`limit`,
  acceptance: $localize`accepted finding`,
  lane: $localize`lane`,
  state: $localize`state`,
  crossing: $localize`crossing`,
};

/** What changed, a row for each field that says something else. */
export const differenceRows = (differences: readonly Difference[]): DifferenceRow[] =>
  differences.flatMap((difference, index): DifferenceRow[] => {
    const { what, places, arrange } = difference;
    const canBack =
      what === 'renamed' ||
      places.before !== undefined ||
      places.after !== undefined ||
      arrange !== undefined;
    return rowsOf(difference).map((row, i) => ({
      ...row,
      takesBack: canBack && i === 0 ? index : undefined,
    }));
  });

function rowsOf({ kind, lane, name, what, was, fields }: Difference): Omit<DifferenceRow, 'takesBack'>[] {
  const named = kind === 'moveset' ? KINDS[kind] : `${KINDS[kind]} ${name}`;
  const thing = lane === undefined ? named : $localize`${named} in ${lane}`;
  const said = (side: 'before' | 'after'): string =>
    fields.flatMap((f) => (f[side] === undefined ? [] : [`${f.field} ${f[side]}`])).join(', ');
  switch (what) {
    case 'renamed':
      return [{ what, title: thing, before: was ?? '', after: name }];
    case 'new':
      return [{ what, title: thing, before: '', after: said('after') }];
    case 'gone':
      return [{ what, title: thing, before: said('before'), after: '' }];
    case 'changed':
      return fields.map(({ field, before = '', after = '' }) => ({
        what,
        title: field === 'value' ? thing : `${thing}: ${field}`,
        before,
        after,
      }));
  }
}
