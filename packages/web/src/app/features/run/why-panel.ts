import { MatButton } from '@angular/material/button';
import { MatTableModule } from '@angular/material/table';
import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import type { Verdict } from '@glenmark/core/machine';
import { formatValue, PLAIN, SPEED } from '@glenmark/core/notation';
import { type Account, type Trace, whenOpen } from '@glenmark/core/run';
import { Walk } from '../../shared/document/walk';
import { TermTree } from './term-tree';

const VERDICTS: Record<Verdict, { mark: string; word: string; tone: string }> = {
  taken: { mark: '→', word: $localize`taken`, tone: 'ok' },
  lost: { mark: '≠', word: $localize`open, lost`, tone: 'doubt' },
  noRoom: { mark: '✕', word: $localize`refused`, tone: 'bad' },
  locked: { mark: '✕', word: $localize`locked`, tone: 'bad' },
  closed: { mark: '✕', word: $localize`closed`, tone: 'quiet' },
};

/** The account of a tick: what each lane weighed, term by term, and who wrote what. */
@Component({
  selector: 'gm-why-panel',
  imports: [MatButton, MatTableModule, TermTree],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './why-panel.html',
  styleUrl: './why-panel.scss',
})
export class WhyPanel {
  private readonly walk = inject(Walk);
  readonly account = input.required<Account>();
  readonly rate = input.required<number>();
  readonly stances = input.required<readonly string[]>();
  readonly trace = input.required<Trace>();
  readonly goTo = output<number>();

  /** The crossing whose openings are asked for, and what the run says. */
  private readonly asked = signal<{ lane: string; index: number } | undefined>(undefined);
  protected readonly opening = computed(() => {
    const asked = this.asked();
    if (asked === undefined) return undefined;
    const trace = this.trace();
    const lane = trace.machine.lanes.findIndex((l) => l.name === asked.lane);
    return { ...asked, ...whenOpen(trace, lane, asked.index, this.account().tick) };
  });

  protected readonly seconds = computed(() => ((this.account().tick + 1) / this.rate()).toFixed(3));
  protected readonly lanes = computed(() =>
    this.account().lanes.map((lane) => ({
      ...lane,
      moved: lane.before !== lane.after,
      // What happened and what nearly did come first, in the order they were considered.
      crossings: [...lane.crossings]
        .sort((a, b) => Number(a.verdict === 'closed') - Number(b.verdict === 'closed'))
        .map((c) => ({ ...c, ...VERDICTS[c.verdict] })),
    })),
  );
  protected readonly writes = computed(() =>
    this.account().writes.map((w) => ({
      ...w,
      text:
        w.channel === 'stance'
          ? (this.stances()[w.value] ?? '')
          : formatValue(w.value, w.channel === 'facing' ? PLAIN : SPEED),
    })),
  );

  protected ask(lane: string, index: number): void {
    this.walk.did('why');
    const asked = this.asked();
    this.asked.set(asked?.lane === lane && asked.index === index ? undefined : { lane, index });
  }
}
