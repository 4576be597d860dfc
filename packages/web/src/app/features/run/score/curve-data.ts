import { scopeOf } from '@glenmark/core/machine';
import { checkText, evaluate, type Expression, unitOf } from '@glenmark/core/notation';
import type { Session } from '@glenmark/core/run';

/** What can be drawn as a curve by a click; anything else is written in the notation. */
export const CURVES = ['speed', 'height', 'vx', 'vy', 'x', 'y'] as const;

/** Colours of curves, in the order in which they are chosen. */
const TOKENS = ['moss', 'tide', 'clay', 'heather', 'ink', 'lichen'] as const;

/** A quantity over the ticks of a run. */
export interface Curve {
  text: string;
  unit: string;
  token: string;
  /** One number a tick, as it is after the tick. */
  values: number[];
  /** Set for one of another run that is drawn beside. */
  isOther?: boolean;
}

/** A curve from a text in the notation, or what is wrong with it. */
export function curveOf({ trace }: Session, text: string, index = 0): Curve | string {
  const { machine, records } = trace;
  const { expression, faults } = checkText(text, scopeOf(machine));
  if (expression === undefined) return faults[0]?.message ?? $localize`this says nothing`;
  // A record's facts are from before its tick; the next record's say where this one ended.
  const values = records.map((_, i) => evaluate(expression, (records[i + 1] ?? records[i]!).facts));
  return { text, unit: unitNameOf(expression), token: TOKENS[index % TOKENS.length]!, values };
}

/** Those of the texts that can be drawn: another moveset may not have what they name. */
export const curvesOf = (session: Session, texts: readonly string[]): Curve[] =>
  texts.flatMap((text, i) => {
    const curve = curveOf(session, text, i);
    return typeof curve === 'string' ? [] : [curve];
  });

const unitNameOf = ({ dimension }: Expression): string => (dimension.truth ? '' : unitOf(dimension));

/** A value with as many digits as one can read in passing. */
export const shortNumber = (value: number): string => String(Number(value.toPrecision(3)));
