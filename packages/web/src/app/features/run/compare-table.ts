import type { Measures } from '@glenmark/core/run';
import {
  OF_COOLDOWNS,
  OF_STATES,
  OF_THE_RUN,
  type Outcome,
  outcomeIn,
  type OutcomeKind,
  outcomeUnit,
} from '@glenmark/core/tune';
import type { Compared } from '../../data/compared';
import { outcomeName, outcomeText } from '../../shared/document/outcome-words';

/** A measure of all runs: how it is written in each, and whether it differs by more than half a percent. */
export interface CompareRow {
  name: string;
  unit: string;
  differs: boolean;
  values: string[];
}

/** Rows under a title: of the whole run, by state, by cooldown. `alike` counts those that are folded away. */
export interface CompareGroup {
  title: string;
  rows: CompareRow[];
  alike: number;
}

/** Less than this share of the largest value is no difference. */
const HALF_A_PERCENT = 0.005;

/**
 * The measures of some runs beside each other, in groups. What never happened in any of them is left out, and so are
 * states in which they are alike, unless all are to be shown.
 */
export function compareTable(compared: readonly Compared[], showsAlike: boolean): CompareGroup[] {
  const all = compared.map((c) => c.measures);
  const row = (outcome: Outcome): CompareRow => {
    const values = all.map((m) => (m === undefined ? undefined : outcomeIn(m, outcome)));
    const known = values.filter((v): v is number => v !== undefined && !Number.isNaN(v));
    const spread = known.length === 0 ? 0 : Math.max(...known) - Math.min(...known);
    const isMissing = known.length > 0 && known.length < values.length;
    return {
      name: outcomeName(outcome),
      unit: outcomeUnit(outcome),
      differs: isMissing || spread > HALF_A_PERCENT * Math.max(1, ...known.map(Math.abs)),
      values: values.map(outcomeText),
    };
  };
  const rows = (kinds: readonly OutcomeKind[], names: readonly (string | undefined)[]): CompareRow[] =>
    names.flatMap((of) => kinds.map((kind) => row({ kind, of })));
  const names = (of: (m: Measures) => Record<string, number>): string[] => [
    ...new Set(all.flatMap((m) => (m === undefined ? [] : Object.keys(of(m))))),
  ];
  const group = (title: string, rows: CompareRow[], folds: boolean): CompareGroup => {
    const happened = rows.filter((r) => r.values.some((v) => v !== '0.00' && v !== '–'));
    const shown = happened.filter((r) => showsAlike || !folds || r.differs);
    return { title, rows: shown, alike: folds ? happened.filter((r) => !r.differs).length : 0 };
  };
  return [
    group($localize`whole run`, rows(OF_THE_RUN, [undefined]), false),
    group(
      $localize`by state`,
      rows(
        OF_STATES,
        names((m) => m.timeIn),
      ),
      true,
    ),
    group(
      $localize`by cooldown`,
      rows(
        OF_COOLDOWNS,
        names((m) => m.between),
      ),
      false,
    ),
  ].filter(({ rows, alike }) => rows.length + alike > 0);
}

/** What another tick rate changes. */
export interface RateVerdict {
  rate: string;
  /** One sentence for each: other states, or an expectation that is met only at the moveset's own rate. */
  changes: string[];
}

/** For each other rate, what happens there and not at the moveset's own rate; an empty list when only the step differs. */
export function rateVerdicts(compared: readonly Compared[]): RateVerdict[] {
  return compared.flatMap(({ label, atOwnRate }) => {
    if (atOwnRate === undefined) return [];
    const { behaviour, broken } = atOwnRate;
    return [
      {
        rate: label,
        changes: [
          ...(behaviour === undefined ? [] : [saidOf(behaviour)]),
          ...broken.map((text) => $localize`No longer as expected\: ${text}.`),
        ],
      },
    ];
  });
}

function saidOf({
  lane,
  seconds,
  one,
  other,
}: NonNullable<NonNullable<Compared['atOwnRate']>['behaviour']>): string {
  const at = `${seconds.toFixed(2)} s`;
  if (other === undefined)
    return $localize`${lane} never enters ${one}, which it enters at ${at} at the moveset’s own rate.`;
  if (one === undefined)
    return $localize`${lane} enters ${other} at ${at}, which it does not at the moveset’s own rate.`;
  return $localize`${lane} enters ${other} at ${at}, where it enters ${one} at the moveset’s own rate.`;
}
