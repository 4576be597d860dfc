import { MatButton, MatIconButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatIcon } from '@angular/material/icon';
import { MatInput } from '@angular/material/input';
import { MatProgressBar } from '@angular/material/progress-bar';
import { MatSelectModule } from '@angular/material/select';
import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, signal } from '@angular/core';
import {
  faultOfSeek,
  type Goal,
  outcomeId,
  outcomeOf,
  outcomeUnit,
  type SeekAsked,
} from '@glenmark/core/tune';
import type { Subscription } from 'rxjs';
import { Tuning } from '../../data/tuning';
import { outcomeName } from '../../shared/document/outcome-words';
import { asSentence } from '../../shared/ui/sentence';
import { type FreeText, freeTexts } from './free-dials';
import { RangeFields } from './range-fields';
import { numberOf } from './ranges';
import { type Answered, answeredOf, soFarWords } from './sought-words';
import { TuneState } from './tune-state';

/** A goal as it is typed. */
interface GoalText {
  /** The id of its tape; undefined for the one whose dials are shown. */
  tape: string | undefined;
  outcome: string;
  is: Goal['is'];
  value: string;
}

/** Outcomes are said, the dials that may move are chosen; then values are looked for that meet them. */
@Component({
  selector: 'gm-goals',
  imports: [
    MatButton,
    MatCheckbox,
    MatIcon,
    MatIconButton,
    MatInput,
    MatProgressBar,
    MatSelectModule,
    RangeFields,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './goals.html',
  styleUrls: ['./panel.scss', './goals.scss'],
})
export class Goals {
  protected readonly state = inject(TuneState);
  private readonly tuning = inject(Tuning);

  protected readonly goals = signal<readonly GoalText[]>([
    { tape: undefined, outcome: 'apex', is: 'about', value: '' },
  ]);
  private readonly changedFree = signal<ReadonlyMap<string, FreeText>>(new Map());
  /** All dials that can be turned; those that can matter to a goal may move, unless somebody says otherwise. */
  protected readonly free = computed(() => {
    const matter = this.goals().flatMap(({ outcome }) => this.state.matter()?.[outcome] ?? []);
    return freeTexts(this.state.turnables(), matter, this.changedFree());
  });
  protected readonly outcomes = computed(() =>
    this.state.outcomes().map((o) => ({ id: outcomeId(o), name: outcomeName(o), unit: outcomeUnit(o) })),
  );
  protected readonly wrong = signal('');
  protected readonly tried = signal<number | undefined>(undefined);
  /** What the best setting so far comes to. */
  protected readonly soFar = signal('');
  protected readonly answer = signal<Answered | undefined>(undefined);
  private running: Subscription | undefined;

  constructor() {
    inject(DestroyRef).onDestroy(() => this.running?.unsubscribe());
  }

  /** The tapes that a goal may be of, when there are several. */
  protected readonly tapes = computed(() =>
    this.state.chosen().map(({ tape }) => ({ id: tape.id, name: tape.name })),
  );

  protected tapeOf(goal: GoalText): string | undefined {
    return this.tapes()[this.placeOf(goal.tape)]?.id;
  }

  private placeOf(tape: string | undefined): number {
    const place = this.tapes().findIndex(({ id }) => id === tape);
    return place < 0 ? this.state.own() : place;
  }

  protected unitOf(id: string): string {
    const outcome = outcomeOf(id);
    return outcome === undefined ? '' : outcomeUnit(outcome);
  }

  protected change(which: number, change: Partial<GoalText>): void {
    this.goals.set(this.goals().map((goal, i) => (i === which ? { ...goal, ...change } : goal)));
  }

  protected add(): void {
    const used = this.goals().map(({ outcome }) => outcome);
    const next = ['apex', 'timeToApex'].find((id) => !used.includes(id)) ?? this.state.outcome();
    this.goals.set([
      ...this.goals(),
      { tape: this.goals().at(-1)?.tape, outcome: next, is: 'about', value: '' },
    ]);
  }

  protected drop(which: number): void {
    this.goals.set(this.goals().filter((_, i) => i !== which));
  }

  protected setFree(free: FreeText, change: Partial<FreeText>): void {
    this.changedFree.set(new Map(this.changedFree()).set(free.dial, { ...free, ...change }));
  }

  protected find(): void {
    const asked = this.state.asked();
    if (asked === undefined) return;
    const question = this.question();
    const fault = faultOfSeek(question);
    this.wrong.set(fault === undefined ? '' : asSentence(fault));
    if (fault !== undefined) return;
    this.answer.set(undefined);
    this.soFar.set('');
    this.running?.unsubscribe();
    this.running = this.tuning.sought(asked, question).subscribe({
      next: ({ done, soFar, result }) => {
        this.tried.set(done);
        if (soFar !== undefined) this.soFar.set(soFarWords(question, soFar));
        if (result !== undefined) this.answer.set(answeredOf(question, result, this.state.turnables()));
      },
      error: (error: Error) => {
        this.tried.set(undefined);
        this.wrong.set($localize`The search failed\: ${error.message}`);
      },
      complete: () => {
        this.tried.set(undefined);
        if (this.answer() === undefined) this.wrong.set($localize`This tape cannot be played.`);
      },
    });
  }

  protected stop(): void {
    this.running?.unsubscribe();
    this.tried.set(undefined);
  }

  protected tryValues(setting: Answered['setting']): void {
    this.state.turnTo(setting);
  }

  private question(): SeekAsked {
    return {
      goals: this.goals().flatMap(({ tape, outcome: id, is, value }): Goal[] => {
        const outcome = outcomeOf(id);
        return outcome === undefined
          ? []
          : [{ tape: this.placeOf(tape), outcome, is, value: numberOf(value) }];
      }),
      free: this.free()
        .filter(({ isFree }) => isFree)
        .map(({ dial, from, to }) => ({ dial, from: numberOf(from), to: numberOf(to) })),
      expecting: this.state.chosen().map((_, i) => i),
      at: this.state.setting(),
    };
  }
}
