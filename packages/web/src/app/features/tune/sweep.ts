import { MatButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatProgressBar } from '@angular/material/progress-bar';
import { MatSelectModule } from '@angular/material/select';
import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, signal } from '@angular/core';
import {
  type Axis,
  faultOfSweep,
  outcomeId,
  type Outcome,
  outcomeOf,
  outcomeUnit,
  type Setting,
  settingsOf,
  type Swept,
} from '@glenmark/core/tune';
import type { Subscription } from 'rxjs';
import { Tuning } from '../../data/tuning';
import { outcomeName, outcomeText } from '../../shared/document/outcome-words';
import { asSentence } from '../../shared/ui/sentence';
import { AxisFields, type AxisText } from './axis-fields';
import { Chart } from './chart';
import { numberOf, rangeOf, shortValue } from './ranges';
import { curveOption, mapOption } from './sweep-charts';
import { bandsOf, holds, placeOf, placeWords, valueAt } from './sweep-shown';
import { TuneState } from './tune-state';

/** One dial is tried in so many places, each of two in so many. */
const PLACES = 61;
const PLACES_OF_TWO = 25;

interface Answer {
  axes: readonly Axis[];
  outcome: Outcome;
  swept: readonly Swept[];
  text: string;
  /** What else was on trial. */
  others: Setting;
  seconds: number;
}

/** An outcome over the range of a dial, or of two, with where all is as expected. Any place of it can be taken. */
@Component({
  selector: 'gm-sweep',
  imports: [AxisFields, Chart, MatButton, MatCheckbox, MatProgressBar, MatSelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './sweep.html',
  styleUrl: './panel.scss',
})
export class Sweep {
  protected readonly state = inject(TuneState);
  private readonly tuning = inject(Tuning);

  private readonly written = signal<readonly AxisText[]>([]);
  /** The dial, and the second one or none. */
  protected readonly axes = computed((): readonly AxisText[] => {
    const [
      first = this.axisFor(this.state.matterToOutcome()?.[0] ?? this.state.turnables()[0]?.name),
      second,
    ] = this.written();
    return [first, second ?? NO_AXIS];
  });
  protected readonly findings = signal(false);
  protected readonly outcomes = computed(() =>
    this.state.outcomes().map((o) => ({ id: outcomeId(o), name: outcomeName(o) })),
  );
  protected readonly wrong = signal('');
  protected readonly progress = signal<{ done: number; of: number } | undefined>(undefined);
  protected readonly share = computed(
    () => (100 * (this.progress()?.done ?? 0)) / (this.progress()?.of || 1),
  );
  private readonly answer = signal<Answer | undefined>(undefined);
  private readonly cursor = signal(0);
  private running: Subscription | undefined;

  /** What was swept, while it still is about this moveset. */
  protected readonly shown = computed(() => {
    const answer = this.answer();
    if (answer === undefined || answer.text !== this.state.workspace.text()) return undefined;
    const named = answer.axes.map((axis) => ({ axis, unit: this.unitOf(axis.dial) }));
    const [across, up] = named;
    const outcome = `${outcomeName(answer.outcome)} (${outcomeUnit(answer.outcome)})`;
    const cursor = Math.min(this.cursor(), answer.swept.length - 1);
    const at = answer.swept[cursor]!;
    const value = outcomeText(at.values[0]);
    const own = this.state.turnables().find((t) => t.name === across!.axis.dial)?.value ?? NaN;
    return {
      isMap: up !== undefined,
      option:
        up === undefined
          ? curveOption(across!, answer.swept, outcome, own, cursor)
          : mapOption([across!, up], answer.swept, cursor),
      words: placeWords(
        at,
        answer.axes,
        named.map((n) => n.unit),
        `${outcomeName(answer.outcome)} ${value} ${outcomeUnit(answer.outcome)}`,
      ),
      summary: summaryOf(answer),
      setting: at.setting,
      isOfOthers: JSON.stringify(answer.others) !== JSON.stringify(this.othersThan(answer.axes)),
      hasFindings: answer.swept.some(({ begun }) => (begun?.length ?? 0) > 0),
      runs: $localize`${answer.swept.length} settings in ${answer.seconds.toFixed(1)} s`,
    };
  });

  constructor() {
    inject(DestroyRef).onDestroy(() => this.running?.unsubscribe());
  }

  protected unitOf(dial: string): string {
    return this.state.turnables().find((t) => t.name === dial)?.unit ?? '';
  }

  protected choose(which: number, dial: string): void {
    this.write(which, dial === '' ? NO_AXIS : this.axisFor(dial));
  }

  protected write(which: number, axis: AxisText): void {
    this.written.set(this.axes().map((a, i) => (i === which ? axis : a)));
  }

  protected run(): void {
    const asked = this.state.asked();
    const outcome = outcomeOf(this.state.outcome());
    const chosen = this.axes().filter(({ dial }) => dial !== '');
    if (asked === undefined || outcome === undefined) return;
    const places = chosen.length > 1 ? PLACES_OF_TWO : PLACES;
    const axes = chosen.map(({ dial, from, to }): Axis => ({
      dial,
      from: numberOf(from),
      to: numberOf(to),
      places,
    }));
    const expecting = this.state.chosen().map((_, i) => i);
    const of = { tape: this.state.own(), outcomes: [outcome], expecting, findings: this.findings() };
    const fault = chosen.length === 0 ? $localize`Choose a dial` : faultOfSweep({ axes, ...of });
    this.wrong.set(fault === undefined ? '' : asSentence(fault));
    if (fault !== undefined) return;
    // What is on trial stays so while others are swept.
    const others = this.othersThan(axes);
    const settings = settingsOf(axes).map((setting) => ({ ...others, ...setting }));
    const began = performance.now();
    this.running?.unsubscribe();
    this.running = this.tuning.swept(asked, of, settings).subscribe({
      next: ({ done, of: all, result }) => {
        this.progress.set(result === undefined ? { done, of: all } : undefined);
        if (result === undefined) return;
        const seconds = (performance.now() - began) / 1000;
        if (result.length === 0) this.wrong.set($localize`This tape cannot be played.`);
        else this.take({ axes, outcome, swept: result, text: asked.moveset, others, seconds });
      },
      error: (error: Error) => {
        this.progress.set(undefined);
        this.wrong.set($localize`The sweep failed\: ${error.message}`);
      },
    });
  }

  protected stop(): void {
    this.running?.unsubscribe();
    this.progress.set(undefined);
  }

  /** The place that was clicked: its values are tried. */
  protected pick({ x, y }: { x: number; y: number }): void {
    const axes = this.answer()?.axes;
    if (axes === undefined) return;
    const [across, up] = axes as [Axis, Axis?];
    this.cursor.set(up === undefined ? placeOf(across, x) : Math.round(x) * up.places + Math.round(y));
    this.tryCursor();
  }

  /** Arrow keys move over the places, Enter tries where one is. */
  protected onKey(event: KeyboardEvent): void {
    const { axes, swept } = this.answer() ?? { axes: [], swept: [] };
    const rows = axes[1]?.places ?? 1;
    const by = {
      ArrowRight: rows,
      ArrowLeft: -rows,
      ArrowUp: rows > 1 ? 1 : 0,
      ArrowDown: rows > 1 ? -1 : 0,
    }[event.key];
    if (event.key === 'Enter') this.tryCursor();
    else if (by === undefined) return;
    else {
      const next = this.cursor() + by;
      const isSameColumn = Math.floor(next / rows) === Math.floor(this.cursor() / rows);
      if (next >= 0 && next < swept.length && (Math.abs(by) !== 1 || rows === 1 || isSameColumn))
        this.cursor.set(next);
    }
    event.preventDefault();
  }

  /** What is on trial beside the dials that are swept. */
  private othersThan(axes: readonly Axis[]): Setting {
    const swept = axes.map(({ dial }) => dial);
    return Object.fromEntries(Object.entries(this.state.setting()).filter(([dial]) => !swept.includes(dial)));
  }

  private tryCursor(): void {
    const setting = this.shown()?.setting;
    if (setting !== undefined) this.state.turnTo(setting);
  }

  private take(answer: Answer): void {
    const [across, up] = answer.axes as [Axis, Axis?];
    const value = ({ dial }: Axis): number =>
      this.state.setting()[dial] ?? this.state.turnables().find((t) => t.name === dial)?.value ?? 0;
    const column = placeOf(across, value(across));
    this.cursor.set(up === undefined ? column : column * up.places + placeOf(up, value(up)));
    this.answer.set(answer);
  }

  private axisFor(name: string | undefined): AxisText {
    const dial = this.state.turnables().find((t) => t.name === name);
    if (dial === undefined) return NO_AXIS;
    const { min, max } = rangeOf(dial);
    return { dial: dial.name, from: shortValue(min), to: shortValue(max) };
  }
}

const NO_AXIS: AxisText = { dial: '', from: '', to: '' };

/** Where all is as expected, in a sentence. */
function summaryOf({ axes, swept }: Answer): string {
  const fine = swept.filter(holds).length;
  if (fine === swept.length) return $localize`All is as expected everywhere.`;
  if (fine === 0) return $localize`Nowhere here is all as expected.`;
  const [axis, second] = axes as [Axis, Axis?];
  if (second !== undefined)
    return $localize`All is as expected in ${fine} of ${swept.length} places; the others are crossed.`;
  const bands = bandsOf(swept.map(holds)).map(
    ({ from, to }) => `${shortValue(valueAt(axis, from), 4)} – ${shortValue(valueAt(axis, to), 4)}`,
  );
  return $localize`All is as expected at ${axis.dial} ${bands.join(', ')}.`;
}
