import { MatIcon } from '@angular/material/icon';
import { MatTooltip } from '@angular/material/tooltip';
import { MatInput } from '@angular/material/input';
import { MatButton, MatIconButton } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { edit } from '@glenmark/core/model';
import { compileExpectations, type ExpectationResult, readTape, type Session } from '@glenmark/core/run';
import { TapeDesk } from '../../data/tape-desk';
import { asSentence } from '../../shared/ui/sentence';
import { expecting, notExpecting } from './tape-edits';

/** What the tape expects, passed or failed; new ones are pointed at, or written. */
@Component({
  selector: 'gm-expectations',
  imports: [MatIcon, MatIconButton, MatTooltip, MatInput, MatButton],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './expectations.html',
  styleUrl: './expectations.scss',
})
export class Expectations {
  private readonly desk = inject(TapeDesk);
  readonly session = input.required<Session>();
  readonly tick = input.required<number>();
  readonly goTo = output<number>();

  protected readonly draft = signal('');
  protected readonly results = computed((): ExpectationResult[] => this.session().expectations);
  /** What can be expected of the tick under the playhead with one click. */
  protected readonly offers = computed(() => {
    const { machine, records } = this.session().trace;
    const record = records[this.tick()];
    if (record === undefined) return [];
    const state = machine.states[record.leaves[0]!]!.name;
    const height = Math.floor((record.body.y - this.session().trace.start.y) * 20) / 20;
    // The lines are notation: the same in every language.
    /* eslint-disable no-restricted-syntax */
    return [
      { label: $localize`In ${state} here`, line: `at ${this.tick()} in ${state}` },
      { label: $localize`Not in ${state} here`, line: `at ${this.tick()} not in ${state}` },
      { label: $localize`Sometime in ${state}`, line: `sometime in ${state}` },
      ...(height > 0
        ? [{ label: $localize`At least ${height} m up`, line: `peak height >= ${height} m` }]
        : []),
    ];
    /* eslint-enable no-restricted-syntax */
  });
  protected readonly wrong = computed(() => {
    const tape = this.desk.tape();
    const line = this.draft().trim();
    if (tape === undefined || line === '') return '';
    const after = readTape(edit(this.desk.text(), expecting(tape, line))).tape;
    if (after === undefined) return $localize`This does not load.`;
    const { diagnostics } = compileExpectations(after, this.session().trace.machine);
    const own = diagnostics.find((d) => d.path[1] === tape.expect.length);
    return own === undefined ? '' : asSentence(own.message);
  });

  protected add(line: string): void {
    const tape = this.desk.tape();
    if (tape !== undefined) this.desk.apply($localize`expect ${line}`, expecting(tape, line));
  }

  protected write(event: Event): void {
    event.preventDefault();
    if (this.draft().trim() === '' || this.wrong() !== '') return;
    this.add(this.draft().trim());
    this.draft.set('');
  }

  protected remove(index: number): void {
    const tape = this.desk.tape();
    if (tape !== undefined) this.desk.apply($localize`remove an expectation`, notExpecting(tape, index));
  }
}
