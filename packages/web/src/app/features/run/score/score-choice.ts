import { Injectable, signal } from '@angular/core';
import { type Curve, CURVES } from './curve-data';
import { store, stored } from '../../../shared/ui/browser-store';
import { type Group, GROUPS } from '../../../shared/document/score-rows';

interface Choice {
  groups: Group[];
  curves: Curve['text'][];
}

const USUAL: Choice = {
  groups: ['lanes', 'clocks', 'variables', 'events', 'contacts'],
  curves: ['speed', 'height'],
};

/** Which rows and curves the score shows; remembered in the browser. */
@Injectable({ providedIn: 'root' })
export class ScoreChoice {
  private readonly choice = signal(lastChoice());
  readonly groups = (): readonly Group[] => this.choice().groups;
  readonly curves = (): readonly string[] => this.choice().curves;

  toggleGroup(group: Group): void {
    const { groups } = this.choice();
    this.set({
      ...this.choice(),
      groups: GROUPS.filter((g) => (g === group ? !groups.includes(g) : groups.includes(g))),
    });
  }

  toggleCurve(text: string): void {
    const { curves } = this.choice();
    this.set({
      ...this.choice(),
      curves: curves.includes(text) ? curves.filter((c) => c !== text) : [...curves, text],
    });
  }

  private set(choice: Choice): void {
    this.choice.set(choice);
    store('score', JSON.stringify(choice));
  }
}

/** What was chosen last; anything that is not a choice counts as none. */
function lastChoice(): Choice {
  try {
    const { groups, curves } = JSON.parse(stored('score') ?? '{}') as Partial<Choice>;
    if (!Array.isArray(groups) || !Array.isArray(curves)) return USUAL;
    return {
      groups: GROUPS.filter((g) => groups.includes(g)),
      curves: curves.filter((c) => typeof c === 'string'),
    };
  } catch {
    return USUAL;
  }
}

/** The curves of a click, and those that were written. */
export const offeredCurves = (chosen: readonly string[]): string[] => [
  ...CURVES,
  ...chosen.filter((c) => !(CURVES as readonly string[]).includes(c)),
];
