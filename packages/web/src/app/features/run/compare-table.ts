import type { Measures } from '@glenmark/core/run';
import type { Compared } from '../../data/compared';

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

const WHOLE_RUN: { name: string; of: (m: Measures) => number; unit: string }[] = [
  { name: $localize`apex`, of: (m) => m.apex, unit: 'm' },
  { name: $localize`time to apex`, of: (m) => m.timeToApex, unit: 's' },
  { name: $localize`lowest`, of: (m) => m.lowest, unit: 'm' },
  { name: $localize`reach`, of: (m) => m.reach, unit: 'm' },
  { name: $localize`end`, of: (m) => m.distance, unit: 'm' },
  { name: $localize`top speed`, of: (m) => m.topSpeed, unit: 'm/s' },
  { name: $localize`longest in the air`, of: (m) => m.longestAirtime, unit: 's' },
  { name: $localize`distance to stop`, of: (m) => m.stopping, unit: 'm' },
];

/**
 * The measures of some runs beside each other, in groups. What never happened in any of them is left out, and so are
 * states in which they are alike, unless all are to be shown.
 */
export function compareTable(compared: readonly Compared[], showsAlike: boolean): CompareGroup[] {
  const all = compared.map((c) => c.measures);
  const row = (name: string, unit: string, of: (m: Measures) => number): CompareRow => {
    const values = all.map((m) => (m === undefined ? undefined : of(m)));
    const known = values.filter((v) => v !== undefined);
    const spread = Math.max(...known) - Math.min(...known);
    return {
      name,
      unit,
      differs: spread > HALF_A_PERCENT * Math.max(1, ...known.map(Math.abs)),
      values: values.map(written),
    };
  };
  const names = (of: (m: Measures) => Record<string, number>): string[] => [
    ...new Set(all.flatMap((m) => (m === undefined ? [] : Object.keys(of(m))))),
  ];
  const group = (title: string, rows: CompareRow[], folds: boolean): CompareGroup => {
    const happened = rows.filter((r) => r.values.some((v) => v !== '0.00' && v !== '–'));
    const shown = happened.filter((r) => showsAlike || !folds || r.differs);
    return { title, rows: shown, alike: folds ? happened.filter((r) => !r.differs).length : 0 };
  };
  const states = names((m) => m.timeIn).flatMap((state) => [
    row($localize`time in ${state}`, 's', (m) => m.timeIn[state] ?? 0),
    row($localize`distance in ${state}`, 'm', (m) => m.along[state] ?? 0),
  ]);
  const cooldowns = names((m) => m.between).map((name) =>
    row($localize`time between ${name}`, 's', (m) => m.between[name] ?? NaN),
  );
  return [
    group(
      $localize`whole run`,
      WHOLE_RUN.map(({ name, unit, of }) => row(name, unit, of)),
      false,
    ),
    group($localize`by state`, states, true),
    group($localize`by cooldown`, cooldowns, false),
  ].filter(({ rows, alike }) => rows.length + alike > 0);
}

const written = (value: number | undefined): string =>
  value === undefined || Number.isNaN(value) ? '–' : value.toFixed(2).replace(/^-(0\.00)$/, '$1');

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
