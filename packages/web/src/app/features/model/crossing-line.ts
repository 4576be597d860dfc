import { MatIcon } from '@angular/material/icon';
import { MatInput } from '@angular/material/input';
import { MatButton, MatIconButton } from '@angular/material/button';
import {
  afterRenderEffect,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  input,
  model,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { constantFacts } from '@glenmark/core/findings';
import type { Crossing } from '@glenmark/core/machine';
import type { Change, Diagnostic } from '@glenmark/core/model';
import { print } from '@glenmark/core/notation';
import { MatAutocompleteModule, MatAutocompleteTrigger } from '@angular/material/autocomplete';
import { Workspace } from '../../data/workspace';
import { MarkedText } from '../../shared/ui/marked-text';
import { asSentence } from '../../shared/ui/sentence';
import type { CellPlace } from './crossings-grid';
import { type GuardWord, guardWord } from './guard-word';
import { type Offer, offersFor } from './offers';
import {
  addCrossing,
  effectLine,
  removeCrossing,
  setEffects,
  setGuard,
  setRank,
} from '../../shared/document/edits';

type Field = 'guard' | 'effects';

/** The line above the grid: reads and writes the chosen crossing's guard and effects, with the solver's word under it. */
@Component({
  selector: 'gm-crossing-line',
  imports: [MatIcon, MatIconButton, MatInput, MatButton, MarkedText, MatAutocompleteModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './crossing-line.html',
  styleUrl: './crossing-line.scss',
})
export class CrossingLine {
  private readonly workspace = inject(Workspace);
  readonly lane = input.required<number>();
  readonly place = input.required<CellPlace>();
  readonly chosenIndex = input<number | undefined>();

  /** What was typed in the grid: it replaces the guard. An empty text, as after Enter, opens the guard as it is. */
  readonly typed = model<string>();

  readonly done = output();
  readonly chooseIndex = output<number>();

  private readonly guardBox = viewChild.required<ElementRef<HTMLInputElement>>('guardBox');
  private readonly trigger = viewChild.required(MatAutocompleteTrigger);
  protected readonly guard = signal('');
  protected readonly effects = signal('');

  /** All crossings of the cell; a list or a group may share one with other rows. */
  protected readonly crossings = computed((): Crossing[] => {
    const machine = this.workspace.machine();
    const { from, to } = this.place();
    if (machine === undefined) return [];
    return machine.lanes[this.lane()]!.crossings.filter(
      (c) =>
        machine.states[c.to]!.name === to &&
        (from === '*' ? c.from.length === 0 : c.from.some((s) => machine.states[s]!.name === from)),
    );
  });
  protected readonly crossing = computed(
    () => this.crossings().find((c) => c.index === this.chosenIndex()) ?? this.crossings()[0],
  );
  protected readonly fromName = computed(() =>
    this.place().from === '*' ? $localize`everywhere` : this.place().from,
  );
  protected readonly alsoFrom = computed(() => {
    const machine = this.workspace.machine()!;
    return (this.crossing()?.from ?? [])
      .map((s) => machine.states[s]!.name)
      .filter((name) => name !== this.place().from)
      .join(', ');
  });

  private readonly saved = computed(
    () => {
      const crossing = this.crossing();
      return {
        guard: crossing?.when === undefined ? '' : print(crossing.when.syntax),
        effects: effectLine(crossing?.do ?? []),
      };
    },
    // What is being typed stays when the moveset changes elsewhere.
    { equal: (a, b) => a.guard === b.guard && a.effects === b.effects },
  );
  protected readonly changed = computed(
    () => this.guard().trim() !== this.saved().guard || this.effects().trim() !== this.saved().effects,
  );

  /** The moveset as it would be with what is written now. */
  private readonly candidate = computed(() =>
    this.changed() ? this.workspace.preview(this.changes()) : this.workspace.compiled(),
  );
  protected readonly fault = computed((): { field: Field; message: string } | undefined => {
    const first = this.candidate().diagnostics.find((d) => d.severity === 'error');
    return first && { field: fieldOf(first), message: asSentence(first.message) };
  });
  /** What the solver says of the guard as written; nothing while there is an error. */
  protected readonly word = computed((): GuardWord | undefined => {
    const { machine } = this.candidate();
    if (machine === undefined || this.fault() !== undefined) return undefined;
    const crossings = machine.lanes[this.lane()]?.crossings ?? [];
    const index = this.crossing()?.index ?? crossings.length - 1;
    const crossing = this.crossing() !== undefined || this.changed() ? crossings[index] : undefined;
    return guardWord(machine, crossing, constantFacts(machine));
  });

  /** What may stand where the caret is in the guard, as whole guards with that put in. */
  protected readonly offers = signal<Offer[]>([]);

  constructor() {
    effect(() => {
      this.place();
      const saved = this.saved();
      untracked(() => {
        this.guard.set(saved.guard);
        this.effects.set(saved.effects);
      });
    });
    // It runs after the effect above, which would otherwise put the old guard back.
    afterRenderEffect(() => {
      const typed = this.typed();
      if (typed === undefined) return;
      untracked(() => {
        this.begin(typed);
        this.typed.set(undefined);
      });
    });
  }

  private begin(text: string): void {
    const box = this.guardBox().nativeElement;
    if (text !== '') {
      this.guard.set(text);
      // The next key may come before the box is drawn again.
      box.value = text;
    }
    box.focus();
    if (text === '') box.select();
    else box.setSelectionRange(text.length, text.length);
  }

  protected onGuard(box: HTMLInputElement): void {
    this.guard.set(box.value);
    const machine = this.workspace.machine();
    const caret = box.selectionStart ?? box.value.length;
    if (machine === undefined || !/\w$/.test(box.value.slice(0, caret))) return this.offers.set([]);
    this.offers.set(offersFor(box.value, caret, machine));
  }

  protected onKey(event: KeyboardEvent): void {
    if (event.key === 'Enter') {
      event.preventDefault();
      this.commit();
    } else if (event.key === 'Escape') {
      this.guard.set(this.saved().guard);
      this.effects.set(this.saved().effects);
      this.done.emit();
    }
  }

  protected commit(): void {
    this.offers.set([]);
    this.trigger().closePanel();
    if (this.fault() !== undefined) return;
    const isNew = this.crossing() === undefined;
    if (!isNew && !this.changed()) {
      this.done.emit();
      return;
    }
    const ways = `${this.fromName()} → ${this.place().to}`;
    const name = isNew ? $localize`add ${ways}` : $localize`change ${ways}`;
    if (this.workspace.apply(name, this.changes()).length === 0) this.done.emit();
  }

  protected rank(by: number): void {
    const crossing = this.crossing()!;
    this.workspace.apply(
      $localize`rank of ${this.fromName()} → ${this.place().to}`,
      setRank(crossing, crossing.rank + by),
    );
  }

  protected remove(): void {
    this.workspace.apply(
      $localize`remove ${this.fromName()} → ${this.place().to}`,
      removeCrossing(this.crossing()!),
    );
    this.done.emit();
  }

  private changes(): Change[] {
    const { machine, file } = this.workspace.compiled();
    const crossing = this.crossing();
    const guard = this.guard().trim();
    const effects = this.effects().trim();
    if (crossing !== undefined) {
      return [
        ...(guard === this.saved().guard ? [] : setGuard(crossing, guard)),
        ...(effects === this.saved().effects ? [] : setEffects([...crossing.path, 'do'], effects)),
      ];
    }
    const added = addCrossing(machine!, file!, this.lane(), { ...this.place(), when: guard });
    const index = file!.lanes[this.lane()]!.crossings?.length ?? 0;
    return [
      ...added,
      ...(effects === ''
        ? []
        : setEffects([...machine!.lanes[this.lane()]!.path, 'crossings', index, 'do'], effects)),
    ];
  }
}

const fieldOf = (d: Diagnostic): Field => (d.path.includes('do') ? 'effects' : 'guard');
