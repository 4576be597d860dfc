import { MatIcon } from '@angular/material/icon';
import { MatTooltip } from '@angular/material/tooltip';
import { MatButton, MatIconButton } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { Stretch } from '../../../shared/document/score-rows';

/** What can be done with a chosen span of ticks. */
export type SpanAct = 'loop' | 'zoom' | 'copy' | 'repeat' | 'cut' | 'clear' | 'leave';

/** The chosen span of ticks, and what can be done with it. */
@Component({
  selector: 'gm-span-bar',
  imports: [MatIcon, MatIconButton, MatTooltip, MatButton],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './span-bar.html',
  styles: `
    div {
      display: flex;
      align-items: center;
      gap: 7px;
      padding: 3px 0;
      white-space: nowrap;
      cursor: default;
    }
    .dim {
      margin-right: 6px;
    }
  `,
})
export class SpanBar {
  readonly span = input.required<Stretch>();
  readonly rate = input.required<number>();
  readonly looping = input.required<boolean>();
  readonly editable = input.required<boolean>();
  readonly act = output<SpanAct>();

  protected readonly size = computed(() => {
    const ticks = this.span().to - this.span().from;
    const seconds = (ticks / this.rate()).toFixed(3);
    return ticks === 1 ? $localize`1 tick, ${seconds} s` : $localize`${ticks} ticks, ${seconds} s`;
  });
  protected readonly acts = computed((): { act: SpanAct; label: string; title: string }[] => [
    { act: 'loop', label: $localize`Play round`, title: $localize`Plays these ticks over and over` },
    { act: 'zoom', label: $localize`Fill the width`, title: $localize`Shows these ticks only` },
    {
      act: 'copy',
      label: $localize`Copy`,
      title: $localize`What is held in these ticks, as text; Ctrl V puts it in at the playhead`,
    },
    ...(this.editable()
      ? [
          {
            act: 'repeat' as const,
            label: $localize`Repeat`,
            title: $localize`Repeats these ticks after themselves`,
          },
          { act: 'clear' as const, label: $localize`Let go`, title: $localize`Holds nothing in these ticks` },
          {
            act: 'cut' as const,
            label: $localize`Take out`,
            title: $localize`Removes these ticks; what comes after moves up`,
          },
        ]
      : []),
  ]);
}
