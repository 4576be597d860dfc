import { MatTooltip } from '@angular/material/tooltip';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatSelectModule } from '@angular/material/select';
import { MatButton } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatMenuModule } from '@angular/material/menu';
import { RouterLink } from '@angular/router';
import { questionOf, waysIn, waysOut } from '@glenmark/core/findings';
import { chainOf, type Crossing, levelOf, type State } from '@glenmark/core/machine';
import { type Change, stateAt } from '@glenmark/core/model';
import { print } from '@glenmark/core/notation';
import { loneState } from '@glenmark/core/run';
import { Workspace } from '../../data/workspace';
import { KindMark, KINDS } from '../../shared/ui/kind-mark';
import { MarkedText } from '../../shared/ui/marked-text';
import { BodyDrawing } from './body-drawing';
import type { CellPlace } from './crossings-grid';
import { effectLine } from '../../shared/document/edits';
import { FieldRow } from '../../shared/document/field-row';
import { StateActs } from './state-acts';
import { shownResponse } from './shown-response';
import { ResponseCurve } from './response-curve';
import { addableFields, motionFields } from './motion-fields';
import { DialSlider } from './values/dial-slider';
import { dialRows, dialsBehind } from '../../shared/document/dials';
import { Notifications } from '../../shared/ui/notifications';

interface Way extends CellPlace {
  name: string;
  guard: string;
  rank: number;
  never: boolean;
}

/** The sheet of a state: its body to scale, motion, effects, and the ways out of it in the order they are asked. */
@Component({
  selector: 'gm-state-sheet',
  imports: [
    MatTooltip,
    MatCheckbox,
    MatSelectModule,
    MatButton,
    DialSlider,
    StateActs,
    KindMark,
    BodyDrawing,
    FieldRow,
    ResponseCurve,
    MarkedText,
    MatMenuModule,
    RouterLink,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './state-sheet.html',
  styleUrl: './state-sheet.scss',
})
export class StateSheet {
  protected readonly workspace = inject(Workspace);
  private readonly notifications = inject(Notifications);
  readonly state = input.required<State>();
  readonly openState = output<string>();
  readonly openCrossing = output<CellPlace>();

  protected readonly machine = computed(() => this.workspace.machine()!);
  protected readonly kindWord = computed(() =>
    this.isGroup() ? $localize`group` : KINDS[this.state().kind].word,
  );
  protected readonly isGroup = computed(() => this.state().members.length > 0);
  protected readonly group = computed(() => this.machine().states[this.state().parent]?.name);
  /** What the stance is when the state names none. */
  protected readonly unsetWord = computed(() =>
    this.group() === undefined ? $localize`unchanged` : $localize`as ${this.group()}`,
  );
  /** What the file itself says of this state, without what it inherits. */
  private readonly file = computed(() => stateAt(this.workspace.compiled().file!, this.state().path));
  protected readonly stances = computed(() =>
    this.machine()
      .stances.filter((s) => !s.hidden)
      .map((s) => s.name),
  );
  protected readonly ownStance = computed(() => this.file().stance ?? '');
  protected readonly flags = computed(() =>
    (['home', 'final', 'passing'] as const).map((key) => ({
      key,
      on: this.file()[key] === true,
      help: FLAG_HELP[key],
    })),
  );
  protected readonly motion = computed(() => motionFields(this.machine(), this.state(), this.file().motion));
  protected readonly inheritedMotion = computed(() => {
    const own = Object.keys(this.file().motion ?? {});
    return Object.entries(this.state().motion)
      .filter(([key, value]) => value !== undefined && !own.includes(key))
      .map(([key]) => key)
      .join(', ');
  });
  protected readonly response = shownResponse(
    computed(() => {
      const { file } = this.workspace.compiled();
      const lane = file?.lanes[this.state().lane];
      return file === undefined || lane === undefined || this.isGroup() || this.machine().plane === 'above'
        ? undefined
        : loneState(file, lane, this.state());
    }),
  );
  /** The dials that the curve moves with. */
  protected readonly dials = computed(() => {
    const { machine, state } = this.context();
    const { file } = this.workspace.compiled();
    if (file === undefined) return [];
    const motions = chainOf(machine, state.index).map((s) => stateAt(file, machine.states[s]!.path).motion);
    return dialsBehind(dialRows(machine, file), [`${file.gravity}`, JSON.stringify(motions)]);
  });
  protected readonly addable = computed(() => addableFields(this.file().motion));
  protected readonly effects = computed(() =>
    (['enter', 'each', 'exit'] as const).map((key) => ({
      label: EFFECT_LABELS[key],
      path: [...this.state().path, key],
      text: effectLine(this.state()[key]),
    })),
  );
  protected readonly findings = computed(() =>
    this.workspace
      .findings()
      .filter((f) => f.state === this.state().name && f.accepted === undefined)
      .map((f) => ({ ...f, tone: TONES[questionOf(f.code)] })),
  );
  /** Nothing leads out of it, and that is a fault. */
  protected readonly isSealed = computed(() => this.findings().some((f) => f.code === 'OUT1'));
  protected readonly out = computed((): Way[] => {
    const { machine, state } = this.context();
    const chain = chainOf(machine, state.index);
    const level = (c: Crossing): number => levelOf(machine, c, state.index, chain);
    return waysOut(machine, machine.lanes[state.lane]!.crossings, state.index)
      .sort((a, b) => level(a) - level(b) || b.rank - a.rank || a.index - b.index)
      .map((c) => this.toWay(c, machine.states[c.to]!.name, this.rowName(c, chain)));
  });
  protected readonly into = computed((): Way[] => {
    const { machine, state } = this.context();
    return waysIn(machine, machine.lanes[state.lane]!.crossings, state.index).map((c) => {
      const from = c.from.length === 0 ? '*' : machine.states[c.from[0]!]!.name;
      const names =
        c.from.length === 0 ? $localize`everywhere` : c.from.map((s) => machine.states[s]!.name).join(', ');
      return this.toWay(c, names, from);
    });
  });

  protected setStance(stance: string): void {
    this.apply($localize`stance of ${this.state().name}`, [
      { path: [...this.state().path, 'stance'], value: stance === '' ? undefined : stance },
    ]);
  }

  protected toggle(key: string, on: boolean): void {
    const { name } = this.state();
    this.apply(on ? $localize`set ${key} of ${name}` : $localize`clear ${key} of ${name}`, [
      { path: [...this.state().path, key], value: on ? true : undefined },
    ]);
  }

  protected addField(field: { label: string; steps: string[]; value: unknown }): void {
    this.apply($localize`add ${field.label} to ${this.state().name}`, [
      { path: [...this.state().path, 'motion', ...field.steps], value: field.value },
    ]);
  }

  private apply(name: string, changes: Change[]): void {
    this.notifications.unlessDone(this.workspace.apply(name, changes)[0]);
  }

  private context(): { machine: ReturnType<StateSheet['machine']>; state: State } {
    return { machine: this.machine(), state: this.state() };
  }

  /** The row of the grid that a way out of this state stands in. */
  private rowName(c: Crossing, chain: readonly number[]): string {
    const source = chain.find((s) => c.from.includes(s));
    return source === undefined ? '*' : this.machine().states[source]!.name;
  }

  private toWay(c: Crossing, name: string, from: string): Way {
    const to = this.machine().states[c.to]!.name;
    const never = this.workspace
      .findings()
      .some(
        (f) =>
          /^IN[235]$/.test(f.code) &&
          f.lane === this.machine().lanes[c.lane]!.name &&
          f.crossing?.index === c.index,
      );
    return {
      name,
      from,
      to,
      guard: c.when === undefined ? 'always' : print(c.when.syntax),
      rank: c.rank,
      never,
    };
  }
}

/** How loud a finding is in the sheet. */
const TONES = { in: 'bad', out: 'bad', agree: 'doubtful', risky: 'doubtful', tidy: 'quiet' };

const EFFECT_LABELS = { enter: $localize`on entry`, each: $localize`each tick`, exit: $localize`on exit` };

const FLAG_HELP = {
  home: $localize`must always be reachable again`,
  final: $localize`may stay for ever: no way out is needed`,
  passing: $localize`left again in the same tick: a choice point`,
};
