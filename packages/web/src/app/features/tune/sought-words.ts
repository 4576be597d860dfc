import {
  outcomeUnit,
  type Reached,
  type SeekAsked,
  type Setting,
  type Sought,
  type Turnable,
} from '@glenmark/core/tune';
import { outcomeName, outcomeText } from '../../shared/document/outcome-words';
import { shortValue } from './ranges';

/** The answer to a search for values, in words. */
export interface Answered {
  setting: Setting;
  isMet: boolean;
  title: string;
  /** Each dial with its value. */
  values: string[];
  goals: { text: string; isMet: boolean }[];
  missed: readonly string[];
  /** What stands in the way of goals that are not met. */
  pulls: string[];
  tried: string;
}

/** What a goal came to. */
const goalWords = ({ goals }: SeekAsked, reached: Reached, goal: number): string => {
  const { outcome } = goals[goal]!;
  return `${outcomeName(outcome)} ${outcomeText(reached.goals[goal]?.value)} ${outcomeUnit(outcome)}`;
};

/** What the best setting so far comes to. */
export function soFarWords(asked: SeekAsked, best: Reached): string {
  const goals = asked.goals.map((_, i) => goalWords(asked, best, i)).join(', ');
  return best.missed.length === 0
    ? $localize`best so far\: ${goals}`
    : $localize`best so far\: ${goals}; missed\: ${best.missed.length}`;
}

export function answeredOf(asked: SeekAsked, sought: Sought, turnables: readonly Turnable[]): Answered {
  const isMet = sought.goals.every((goal) => goal.isMet) && sought.missed.length === 0;
  const words = (reached: Reached, goal: number): string => goalWords(asked, reached, goal);
  return {
    setting: sought.setting,
    isMet,
    title: isMet
      ? $localize`All goals are met, and all expectations kept.`
      : $localize`This is as near as these dials come.`,
    values: Object.entries(sought.setting).map(([dial, value]) => {
      const unit = turnables.find(({ name }) => name === dial)?.unit ?? '';
      return `${dial} ${shortValue(value)} ${unit}`.trim();
    }),
    goals: sought.goals.map((goal, i) => ({ text: words(sought, i), isMet: goal.isMet })),
    missed: sought.missed,
    pulls: sought.alone.map(({ goal, reached }) => {
      const name = outcomeName(asked.goals[goal]!.outcome);
      if (!reached.goals[goal]!.isMet)
        return $localize`${name} cannot be met by these dials within their ranges, even alone\: the nearest is ${words(reached, goal)}.`;
      const others = [
        ...reached.goals.flatMap((other, i) => (other.isMet ? [] : [words(reached, i)])),
        ...reached.missed,
      ];
      return others.length === 0
        ? $localize`${name} can be met alone.`
        : $localize`${name} pulls against others\: met alone, it leaves ${others.join('; ')}.`;
    }),
    tried: $localize`${sought.tried} settings tried`,
  };
}
