import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { Library } from '../data/library';
import { Scoutings } from '../data/scoutings';
import { Workspace } from '../data/workspace';

const BUDGETS = [20_000, 100_000, 500_000, 2_000_000, 10_000_000];

/** Scouting from the application: where, how long, how far it is, and what it did not get to. */
@Component({
  selector: 'gm-scouting-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './scouting-panel.html',
  styleUrl: './scouting-panel.scss',
})
export class ScoutingPanel {
  protected readonly workspace = inject(Workspace);
  protected readonly scoutings = inject(Scoutings);
  private readonly library = inject(Library);

  protected readonly budgets = BUDGETS.map((n) => ({ n, text: n.toLocaleString('en') }));
  protected readonly budget = signal(100_000);
  protected readonly seed = signal(1);
  /** The courses that somebody chose; before that, those of the moveset's own tapes. */
  private readonly picked = signal<ReadonlySet<string> | undefined>(undefined);
  private readonly chosen = computed(() => {
    const own = this.workspace
      .tapes()
      .flatMap((t) => (t.moveset === this.workspace.id() && t.course !== undefined ? [t.course.id] : []));
    const all = this.library.courses();
    return this.picked() ?? new Set(own.length > 0 ? own : all.slice(0, 1).map((c) => c.id));
  });
  protected readonly courses = computed(() =>
    this.library.courses().map((c) => ({ id: c.id, name: c.name, on: this.chosen().has(c.id) })),
  );
  protected readonly canStart = computed(
    () => this.chosen().size > 0 && this.workspace.saveState() === 'saved',
  );
  protected readonly view = computed(() => {
    const s = this.scoutings.current();
    if (s === undefined) return undefined;
    const perSecond = s.seconds > 0 ? s.done / s.seconds : 0;
    const left = perSecond > 0 ? Math.max(0, (s.situations - s.done) / perSecond) : undefined;
    const stale = s.revision !== this.workspace.revision();
    return {
      ...s,
      word: WORDS[s.state],
      share: Math.min(1, s.done / s.situations),
      left: left === undefined ? '' : left < 1 ? 'nearly done' : `about ${Math.ceil(left)} s left`,
      stale: stale ? `of revision ${s.revision}; witnesses are played again at each edit` : '',
      doneText: s.done.toLocaleString('en'),
      speed: `${Math.round(perSecond).toLocaleString('en')} situations, ${Math.round(s.seconds > 0 ? s.ticks / s.seconds : 0).toLocaleString('en')} ticks a second`,
    };
  });
  /** States and crossings that neither scouting nor any tape of this moveset has used. */
  protected readonly unused = computed(() => {
    const machine = this.workspace.machine();
    const coverage = this.scoutings.current()?.coverage;
    if (machine === undefined || coverage === undefined || coverage.ofStates === 0) return [];
    const states = machine.states
      .filter((s) => s.members.length === 0)
      .map((s) => `${machine.lanes[s.lane]!.name} ${s.name}`)
      .filter((name) => !coverage.states.includes(name));
    const used = new Set(coverage.crossings.map((c) => `${c.split(' ')[0]} ${c.split('#')[1]}`));
    const crossings = machine.lanes.flatMap((lane) =>
      lane.crossings
        .filter((c) => !used.has(`${lane.name} ${c.index}`))
        .map((c) => {
          const from =
            c.from.length === 0 ? 'everywhere' : c.from.map((s) => machine.states[s]!.name).join(', ');
          return `${lane.name} ${from} → ${machine.states[c.to]!.name}`;
        }),
    );
    return [...states, ...crossings];
  });

  protected pick(id: string): void {
    const next = new Set(this.chosen());
    if (!next.delete(id)) next.add(id);
    this.picked.set(next);
  }

  protected start(): void {
    this.scoutings.start({
      moveset: this.workspace.id()!,
      courses: [...this.chosen()],
      situations: this.budget(),
      seed: this.seed(),
    });
  }
}

const WORDS = {
  queued: 'waits for its turn',
  running: 'scouting',
  done: 'done',
  stopped: 'stopped',
  failed: 'failed',
};
