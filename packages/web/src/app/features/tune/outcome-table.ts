import { MatButton } from '@angular/material/button';
import { MatTableModule } from '@angular/material/table';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { OF_THE_RUN, type Outcome, outcomeId, outcomeIn, outcomeUnit } from '@glenmark/core/tune';
import type { TunedTape } from '../../data/tuning-work';
import { outcomeName, outcomeText } from '../../shared/document/outcome-words';
import { TuneState } from './tune-state';

/** What the tapes come to: a row for each outcome, a column for each tape, with what it was before a dial was turned. */
@Component({
  selector: 'gm-outcome-table',
  imports: [MatButton, MatTableModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './outcome-table.html',
  styleUrl: './outcome-table.scss',
})
export class OutcomeTable {
  protected readonly state = inject(TuneState);
  /** Whether what is measured in each state and of each cooldown is shown, too. */
  protected readonly showsAll = signal(false);

  protected readonly tapes = computed(() =>
    this.state.shown().map(({ name, colour, now }, i) => ({
      column: `tape-${i}`,
      name,
      colour: `var(--${colour})`,
      place: i,
      wrong: now?.wrong,
      ...metIn(now),
    })),
  );
  protected readonly columns = computed(() => ['name', ...this.tapes().map((t) => t.column), 'unit']);
  protected readonly rows = computed(() => {
    const shown = this.state.outcomes().filter((o) => this.showsAll() || isOfTheRun(o));
    return shown.map((outcome) => {
      const id = outcomeId(outcome);
      return {
        id,
        name: outcomeName(outcome),
        unit: outcomeUnit(outcome),
        isChosen: id === this.state.outcome(),
        cells: this.state.shown().map(({ before, now }) => {
          const [was, is] = [valueIn(before, outcome), valueIn(now, outcome)];
          return {
            now: outcomeText(is),
            before: outcomeText(was),
            isOther: outcomeText(was) !== outcomeText(is),
          };
        }),
      };
    });
  });
  protected readonly missed = computed(() => {
    const shown = this.state.shown();
    return shown.flatMap(({ name, now, before }) => {
      const known = new Set(textsMissed(before));
      return textsMissed(now).map((text) => ({ name, text, isNew: !known.has(text) }));
    });
  });
}

const isOfTheRun = ({ kind }: Outcome): boolean => (OF_THE_RUN as readonly string[]).includes(kind);

const valueIn = (run: TunedTape | undefined, outcome: Outcome): number | undefined =>
  run === undefined || run.wrong !== undefined ? undefined : outcomeIn(run.measures, outcome);

const textsMissed = (run: TunedTape | undefined): string[] =>
  run === undefined || run.wrong !== undefined
    ? []
    : run.expectations.filter(({ passed }) => !passed).map(({ text }) => text);

/** How many expectations are met, of how many. */
function metIn(run: TunedTape | undefined): { met: string; isShort: boolean } {
  if (run === undefined || run.wrong !== undefined) return { met: '', isShort: false };
  const { length } = run.expectations;
  const met = run.expectations.filter(({ passed }) => passed).length;
  return { met: `${met}/${length}`, isShort: met < length };
}
