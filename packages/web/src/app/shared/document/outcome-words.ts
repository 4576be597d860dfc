import type { Outcome, OutcomeKind } from '@glenmark/core/tune';

/** What outcomes of the whole run are called. */
const OF_THE_RUN: Partial<Record<OutcomeKind, string>> = {
  apex: $localize`apex`,
  timeToApex: $localize`time to apex`,
  firstHop: $localize`first hop`,
  secondHop: $localize`second hop`,
  lowest: $localize`lowest`,
  reach: $localize`reach`,
  distance: $localize`end`,
  topSpeed: $localize`top speed`,
  longestAirtime: $localize`longest in the air`,
  stopping: $localize`distance to stop`,
  stoppingTime: $localize`time to stop`,
  turning: $localize`distance to turn`,
  turningTime: $localize`time to turn`,
};

/** An outcome in words. */
export function outcomeName({ kind, of = '' }: Outcome): string {
  switch (kind) {
    case 'timeIn':
      return $localize`time in ${of}`;
    case 'longestIn':
      return $localize`longest stay in ${of}`;
    case 'along':
      return $localize`distance in ${of}`;
    case 'leftAt':
      return $localize`where ${of} ends`;
    case 'between':
      return $localize`time between ${of}`;
    default:
      return OF_THE_RUN[kind] ?? kind;
  }
}

/** A number of an outcome as it is shown: with two decimals, a dash for what did not happen. */
export const outcomeText = (value: number | undefined): string =>
  value === undefined || Number.isNaN(value) ? '–' : value.toFixed(2).replace(/^-(0\.00)$/, '$1');
