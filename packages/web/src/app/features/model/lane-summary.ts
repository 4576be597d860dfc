import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { Scoutings } from '../../data/scoutings';
import { Workspace } from '../../data/workspace';
import { usedCrossings } from './coverage';

/** What can be said of a lane while none of its crossings is chosen: its size, what was used of it, what is wrong with it. */
@Component({
  selector: 'gm-lane-summary',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <b>{{ lane().name }}</b>
    <span i18n>{states(), plural, =1 {1 state} other {{{ states() }} states}}</span>
    <span i18n>{crossings(), plural, =1 {1 crossing} other {{{ crossings() }} crossings}}</span>
    <span i18n>{{ used() }} used by tapes or scouting</span>
    @if (findings() > 0) {
      <span i18n class="doubt">{findings(), plural, =1 {1 finding} other {{{ findings() }} findings}}</span>
    } @else {
      <span i18n class="ok">no findings</span>
    }
  `,
  styles: `
    :host {
      display: flex;
      gap: 14px;
    }
    b {
      color: var(--ink);
      font-weight: 600;
    }
  `,
})
export class LaneSummary {
  private readonly workspace = inject(Workspace);
  private readonly scoutings = inject(Scoutings);
  readonly index = input.required<number>();

  protected readonly lane = computed(() => this.workspace.machine()!.lanes[this.index()]!);
  protected readonly states = computed(
    () => this.lane().states.filter((s) => this.workspace.machine()!.states[s]!.members.length === 0).length,
  );
  protected readonly crossings = computed(() => this.lane().crossings.length);
  protected readonly used = computed(() => {
    const { name } = this.lane();
    const scouted = usedCrossings(this.scoutings.current(), this.workspace.revision(), name) ?? [];
    const byTapes = (this.workspace.byTapes()?.crossings ?? []).flatMap((c) =>
      c.lane === name ? [c.index] : [],
    );
    return new Set([...scouted, ...byTapes]).size;
  });
  protected readonly findings = computed(
    () =>
      this.workspace.findings().filter((f) => f.lane === this.lane().name && f.accepted === undefined).length,
  );
}
