import { CdkListboxModule } from '@angular/cdk/listbox';
import { MatInput } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { MatButton } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { type KitPart, namesOf, planKit, takeKit } from '@glenmark/core/kits';
import { type Change, errorsOf, NAME } from '@glenmark/core/model';
import { print } from '@glenmark/core/notation';
import { Workspace } from '../../../data/workspace';
import { type Kit, KITS } from './kits';

/** What a part of a kit is in the plan, as the dialog shows it. */
interface PlanRow {
  part: KitPart;
  /** What of the moveset it may stand for. */
  options: string[];
}

/** Ready-made abilities: choose one, see what it adds, say what of it is there already, take it as one step. */
@Component({
  selector: 'gm-kits-dialog',
  imports: [MatInput, CdkListboxModule, MatSelectModule, MatButton, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './kits-dialog.html',
  styleUrl: './kits-dialog.scss',
})
export class KitsDialog {
  private readonly workspace = inject(Workspace);
  private readonly ref = inject<MatDialogRef<KitsDialog, string>>(MatDialogRef);
  private readonly lane = inject<{ lane: number }>(MAT_DIALOG_DATA).lane;

  protected readonly kits = KITS;
  protected readonly kit = signal<Kit>(KITS[0]!);
  /** What a person changed of the plan, by the part's kind and name. */
  private readonly changed = signal<ReadonlyMap<string, Pick<KitPart, 'as' | 'isThere'>>>(new Map());

  protected readonly plan = computed((): PlanRow[] => {
    const machine = this.workspace.machine()!;
    const { machine: kit, yours } = this.kit();
    const there = namesOf(machine);
    return planKit(machine, this.lane, kit, yours).map((part) => ({
      part: { ...part, ...this.changed().get(keyOf(part)) },
      options: there.filter((n) => n.kind === part.kind).map((n) => n.name),
    }));
  });
  protected readonly asked = computed(() =>
    this.plan().filter(({ part }) => ['button', 'axis', 'aim', 'stance', 'state'].includes(part.kind)),
  );
  protected readonly adds = computed(() => {
    const news = this.plan().filter(({ part }) => !part.isThere);
    const of = (...kinds: KitPart['kind'][]): string =>
      news
        .filter(({ part }) => kinds.includes(part.kind))
        .map(({ part }) => part.as)
        .join(', ');
    return [
      { what: 'states', names: of('state') },
      { what: 'dials', names: of('dial') },
      { what: 'controls', names: of('button', 'axis', 'aim') },
      { what: 'body', names: of('stance', 'probe') },
      { what: 'memory', names: of('variable', 'timer', 'cooldown', 'tether', 'ability') },
    ].filter(({ names }) => names !== '');
  });
  private readonly changes = computed((): Change[] => {
    const { file } = this.workspace.compiled();
    const plan = this.plan().map(({ part }) => part);
    return takeKit(file!, this.lane, this.kit().text, plan);
  });
  private readonly preview = computed(() => this.workspace.preview(this.changes()));
  protected readonly wrong = computed(() => {
    const names = this.plan().map(({ part }) => part.as);
    const twice = names.find((name, i) => names.indexOf(name) !== i);
    if (twice !== undefined) return $localize`Two parts of the kit would both be named ${twice}.`;
    if (!names.every((name) => NAME.test(name)))
      return $localize`A name has letters, digits and underscores, and does not start with a digit.`;
    const first = errorsOf(this.preview().diagnostics)[0];
    return first === undefined ? '' : $localize`It does not load: ${first.message}.`;
  });
  protected readonly crossings = computed(() => {
    const machine = this.preview().machine;
    const before = this.workspace.machine()!.lanes[this.lane]!.crossings.length;
    return (machine?.lanes[this.lane]?.crossings.slice(before) ?? []).map((c) => ({
      from:
        c.from.length === 0 ? $localize`everywhere` : c.from.map((s) => machine!.states[s]!.name).join(', '),
      to: machine!.states[c.to]!.name,
      guard: c.when === undefined ? 'always' : print(c.when.syntax),
    }));
  });

  protected choose(kit: Kit): void {
    this.kit.set(kit);
    this.changed.set(new Map());
  }

  protected stand(part: KitPart, choice: string): void {
    const isThere = choice !== '';
    const fresh = planKit(this.workspace.machine()!, this.lane, this.kit().machine, []);
    const as = isThere ? choice : fresh.find((p) => keyOf(p) === keyOf(part))!.as;
    this.put(part, { as, isThere });
  }

  protected name(part: KitPart, as: string): void {
    this.put(part, { as: as.trim(), isThere: false });
  }

  protected take(): void {
    if (this.wrong() !== '') return;
    const { name } = this.kit();
    if (this.workspace.apply($localize`add the kit ${name}`, this.changes()).length === 0)
      this.ref.close(name);
  }

  private put(part: KitPart, change: Pick<KitPart, 'as' | 'isThere'>): void {
    this.changed.update((map) => new Map(map).set(keyOf(part), change));
  }
}

const keyOf = ({ kind, name }: Pick<KitPart, 'kind' | 'name'>): string => `${kind} ${name}`;
