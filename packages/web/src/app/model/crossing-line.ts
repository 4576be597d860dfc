import { MatInput } from '@angular/material/input';
import { MatButton } from '@angular/material/button';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  input,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { constantFacts, describeShut, shadowOf, shutGuard } from '@glenmark/core/findings';
import { type Crossing, scopeOf } from '@glenmark/core/machine';
import type { Change, Diagnostic } from '@glenmark/core/model';
import { complete, print, TRUTH } from '@glenmark/core/notation';
import { MatAutocompleteModule, MatAutocompleteTrigger } from '@angular/material/autocomplete';
import { Workspace } from '../data/workspace';
import { MarkedText } from '../ui/marked-text';
import { asSentence } from '../ui/sentence';
import type { CellPlace } from './crossings-grid';
import { addCrossing, effectLine, removeCrossing, setEffects, setGuard, setRank } from './edits';

type Field = 'guard' | 'effects';

/** The line above the grid: reads and writes the chosen crossing's guard and effects, with the solver's word under it. */
@Component({
  selector: 'gm-crossing-line',
  imports: [MatInput, MatButton, MarkedText, MatAutocompleteModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './crossing-line.html',
  styleUrl: './crossing-line.scss',
})
export class CrossingLine {
  private readonly workspace = inject(Workspace);
  readonly lane = input.required<number>();
  readonly place = input.required<CellPlace>();
  readonly chosenIndex = input<number | undefined>();

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
  protected readonly word = computed(() => {
    const { machine } = this.candidate();
    if (machine === undefined || this.fault() !== undefined) return undefined;
    const crossings = machine.lanes[this.lane()]?.crossings ?? [];
    const index = this.crossing()?.index ?? crossings.length - 1;
    const crossing = this.crossing() !== undefined || this.changed() ? crossings[index] : undefined;
    if (crossing === undefined)
      return {
        never: false,
        text: $localize`No crossing yet. Type a guard and press Enter; empty means always open.`,
      };
    const shut = shutGuard(machine, crossing, constantFacts(machine));
    if (shut !== undefined) return { never: true, text: $localize`Can never hold: ${describeShut(shut)}.` };
    const shadow = shadowOf(machine, crossing, constantFacts(machine));
    if (shadow === undefined) return { never: false, text: $localize`Can hold.` };
    const winners = [...new Set(shadow.map((c) => machine.states[c.to]!.name))].join(' or ');
    return {
      never: true,
      text: $localize`Can hold, but always loses to the crossing to ${winners}, open whenever this one is.`,
    };
  });

  /** What may stand where the caret is in the guard, as whole guards with that put in. */
  protected readonly offers = signal<{ text: string; word: string; help: string }[]>([]);

  constructor() {
    effect(() => {
      this.place();
      const saved = this.saved();
      untracked(() => {
        this.guard.set(saved.guard);
        this.effects.set(saved.effects);
      });
    });
  }

  /** Begins to write the guard; with text, that replaces what is there. */
  begin(text: string): void {
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
    const { start, end, items } = complete(box.value, caret, scopeOf(machine), TRUTH);
    this.offers.set(
      items
        .slice(0, 8)
        .map(({ text, help }) => ({
          text: box.value.slice(0, start) + text + box.value.slice(end),
          word: text,
          help,
        }))
        .filter((offer) => offer.text !== box.value),
    );
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
