import { CdkListboxModule } from '@angular/cdk/listbox';
import { MatInput } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { MatButton } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { FormControl, FormGroup, FormRecord, ReactiveFormsModule } from '@angular/forms';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { type KitPart, namesOf, planKit, takeKit } from '@glenmark/core/kits';
import { type Change, errorsOf, NAME } from '@glenmark/core/model';
import { print } from '@glenmark/core/notation';
import { switchMap } from 'rxjs';
import { Workspace } from '../../../data/workspace';
import { type Kit, KITS } from './kits';

/** What a person says of a part of the kit: what of the moveset it is, or nothing and the name of a new one. */
type PartForm = FormGroup<{ existing: FormControl<string>; name: FormControl<string> }>;

/** The kinds of parts that a moveset is likely to have already. */
const ASKED: readonly KitPart['kind'][] = ['button', 'axis', 'aim', 'stance', 'state'];

/** Ready-made abilities: choose one, see what it adds, say what of it is there already, take it as one step. */
@Component({
  selector: 'gm-kits-dialog',
  imports: [MatInput, CdkListboxModule, MatSelectModule, MatButton, MatDialogModule, ReactiveFormsModule],
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
  /** An entry for each part that is asked for, by its kind and name. */
  private readonly form = computed(() => this.formOf(this.kit()));
  private readonly answered = toSignal(toObservable(this.form).pipe(switchMap((form) => form.valueChanges)));
  protected readonly plan = computed((): KitPart[] => {
    this.answered();
    const answers = this.form().getRawValue();
    return this.planned(this.kit().yours).map((part) => {
      const answer = answers[keyOf(part)];
      if (answer === undefined) return part;
      const isThere = answer.existing !== '';
      return { ...part, as: isThere ? answer.existing : answer.name.trim(), isThere };
    });
  });
  protected readonly asked = computed(() => {
    const there = namesOf(this.workspace.machine()!);
    return Object.entries(this.form().controls).map(([key, form]) => {
      const part = this.plan().find((p) => keyOf(p) === key)!;
      const options = there.filter((n) => n.kind === part.kind).map((n) => n.name);
      return { part, options, form };
    });
  });
  protected readonly adds = computed(() => {
    const news = this.plan().filter((part) => !part.isThere);
    const of = (...kinds: KitPart['kind'][]): string =>
      news
        .filter((part) => kinds.includes(part.kind))
        .map((part) => part.as)
        .join(', ');
    return [
      { what: 'states', names: of('state') },
      { what: 'dials', names: of('dial') },
      { what: 'controls', names: of('button', 'axis', 'aim') },
      { what: 'body', names: of('stance', 'probe') },
      { what: 'memory', names: of('variable', 'timer', 'cooldown', 'tether', 'ability') },
    ].filter(({ names }) => names !== '');
  });
  /** What is wrong with the names; with such names nothing can be tried. */
  private readonly wrongName = computed(() => {
    const names = this.plan().map((part) => part.as);
    const twice = names.find((name, i) => names.indexOf(name) !== i);
    if (twice !== undefined) return $localize`Two parts of the kit would both be named ${twice}.`;
    return names.every((name) => NAME.test(name))
      ? ''
      : $localize`A name has letters, digits and underscores, and does not start with a digit.`;
  });
  private readonly changes = computed((): Change[] => {
    if (this.wrongName() !== '') return [];
    const { file } = this.workspace.compiled();
    return takeKit(file!, this.lane, this.kit().text, this.plan());
  });
  private readonly preview = computed(() => this.workspace.preview(this.changes()));
  protected readonly wrong = computed(() => {
    if (this.wrongName() !== '') return this.wrongName();
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

  protected take(): void {
    if (this.wrong() !== '') return;
    const { name } = this.kit();
    if (this.workspace.apply($localize`add the kit ${name}`, this.changes()).length === 0)
      this.ref.close(name);
  }

  private planned(yours: readonly string[]): KitPart[] {
    return planKit(this.workspace.machine()!, this.lane, this.kit().machine, yours);
  }

  private formOf(kit: Kit): FormRecord<PartForm> {
    const fresh = this.planned([]);
    const asked = this.planned(kit.yours).filter((part) => ASKED.includes(part.kind));
    return new FormRecord(
      Object.fromEntries(
        asked.map((part) => [
          keyOf(part),
          new FormGroup({
            existing: new FormControl(part.isThere ? part.as : '', { nonNullable: true }),
            name: new FormControl(fresh.find((p) => keyOf(p) === keyOf(part))!.as, { nonNullable: true }),
          }),
        ]),
      ),
    );
  }
}

const keyOf = ({ kind, name }: Pick<KitPart, 'kind' | 'name'>): string => `${kind} ${name}`;
