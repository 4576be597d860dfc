import { MatExpansionModule } from '@angular/material/expansion';
import { MatInput } from '@angular/material/input';
import { MatButton } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import {
  CATALOGUE,
  type Drawing,
  drawingOf,
  type Finding,
  HELP,
  QUESTIONS,
  questionOf,
  type Question,
  toSarif,
} from '@glenmark/core/findings';
import { parseSource, slugOf } from '@glenmark/core/model';
import { TapeShelf } from '../../data/tape-shelf';
import { Workspace } from '../../data/workspace';
import type { ApiError } from '../../data/api';
import { Scoutings } from '../../data/scoutings';
import { CertaintyMark } from '../../shared/ui/certainty-mark';
import { MarkedText } from '../../shared/ui/marked-text';
import { saveFile } from '../../shared/ui/save-file';
import { isOfEdits } from './apart';
import { RevisionBaseline } from './revision-baseline';
import { ReasonDrawing } from './reason-drawing';
import { ScoutingPanel } from './scouting-panel';
import { WitnessView } from './witness-view';
import { SideWidth } from '../../shared/ui/side-width';
import { TriedRepairs } from './tried-repairs';

const NOTHING: Record<Question, string> = {
  in: $localize`Every state has a way in that may open.`,
  out: $localize`Every state has a way out, or is final.`,
  agree: $localize`Nothing disagreed in any tape of this moveset.`,
  risky: $localize`Nothing looked risky in any tape of this moveset.`,
  tidy: $localize`Everything that is declared is used.`,
};

const WHY: Record<Finding['certainty'], string> = {
  proved: $localize`why it is certain`,
  witnessed: $localize`where it was seen`,
  suspected: $localize`why it is suspected`,
};

/** The three questions and their answers, live while the moveset is edited. */
@Component({
  selector: 'gm-findings',
  imports: [
    MatExpansionModule,
    MatInput,
    MatButton,
    CertaintyMark,
    MarkedText,
    ReasonDrawing,
    RevisionBaseline,
    RouterLink,
    ScoutingPanel,
    WitnessView,
    SideWidth,
    TriedRepairs,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './findings.html',
  styleUrl: './findings.scss',
})
export class Findings {
  protected readonly workspace = inject(Workspace);
  private readonly router = inject(Router);
  private readonly shelf = inject(TapeShelf);
  protected readonly scoutings = inject(Scoutings);
  /** The fingerprint of the opened finding, from the address. */
  readonly open = input<string>();

  protected readonly groups = computed(() =>
    (Object.keys(QUESTIONS) as Question[]).map((question) => ({
      question,
      title: QUESTIONS[question],
      nothing: NOTHING[question],
      findings: this.workspace
        .findings()
        .filter((f) => questionOf(f.code) === question && this.isWanted(f))
        // What the author accepts comes last.
        .sort((a, b) => Number(a.accepted !== undefined) - Number(b.accepted !== undefined))
        .map((f) => ({
          ...f,
          place: [f.lane, f.state, f.code].filter((part) => part !== '').join(' · '),
          about: CATALOGUE[f.code],
          why: WHY[f.certainty],
          hurts: HELP[f.code].hurts,
          model: this.modelLink(f),
          run: this.runLink(f),
          tape: this.tapeOf(f),
          isNew: isOfEdits(f) && this.known()?.has(f.fingerprint) === false,
        })),
    })),
  );
  private readonly opened = computed(() =>
    this.workspace.findings().find((f) => f.fingerprint === this.open()),
  );
  /** The reason of the opened finding as a drawing, where there is one. */
  protected readonly drawing = computed((): Drawing | undefined => {
    const machine = this.workspace.machine();
    const opened = this.opened();
    return machine === undefined || opened === undefined ? undefined : drawingOf(machine, opened);
  });
  protected readonly ownTapes = computed(() =>
    this.workspace
      .tapes()
      .filter((t) => t.moveset === this.workspace.id())
      .map((t) => t.tape.name),
  );

  /** Why the last repair could not be made; undefined when it was. */
  protected readonly refused = signal<string | undefined>(undefined);

  protected readonly filter = signal('');
  /** What was found at the revision that is looked back to. */
  protected readonly baseline = signal<ReadonlySet<string> | undefined>(undefined);
  private readonly known = computed(() => this.baseline() ?? this.workspace.atOpening());
  /** What came and went since the moveset was opened. */
  protected readonly since = computed(() => {
    const before = this.baseline() === undefined ? this.workspace.atOpening() : undefined;
    if (before === undefined) return '';
    const findings = this.workspace.findings();
    const come = findings.filter((f) => isOfEdits(f) && !before.has(f.fingerprint)).length;
    const gone = [...before].filter((known) => !findings.some((f) => f.fingerprint === known)).length;
    return come + gone === 0 ? '' : $localize`Since it was opened: ${come} new, ${gone} gone.`;
  });

  private isWanted({ sentence, code, certainty, lane, state }: Finding): boolean {
    const words = this.filter().toLowerCase().split(/\s+/);
    const text = `${sentence} ${code} ${certainty} ${lane} ${state}`.toLowerCase();
    return words.every((word) => text.includes(word));
  }

  /** The report as a file: for people's scripts, or for what shows SARIF. */
  protected export(format: 'json' | 'sarif'): void {
    const findings = this.workspace.findings();
    const { source } = parseSource(this.workspace.text());
    const file = `${this.workspace.id()}.yaml`;
    const undecided = this.workspace.undecided();
    const report =
      format === 'json'
        ? { findings, undecided }
        : toSarif([{ findings, file, source: source!, notes: undecided.map((u) => u.sentence) }]);
    const text = JSON.stringify(report, null, 2);
    saveFile(`${this.workspace.id()}.${format}`, new Blob([text], { type: 'application/json' }));
  }

  /** Puts the tape of a witness on the shelf, and opens it in Run where it shows what was found. */
  protected keepTape({ text, tick }: { text: string; tick: number }): void {
    this.shelf.add(text, $localize`Witness`).subscribe({
      next: (tape) =>
        void this.router.navigate(['/moveset', this.workspace.id(), 'run'], {
          queryParams: { tape, tick },
        }),
      error: (error: ApiError) => this.refused.set(error.problem.detail),
    });
  }

  /** Accepts a finding as it is meant, with the reason, in the moveset itself. */
  protected accept(event: Event, finding: string, because: string): void {
    event.preventDefault();
    if (because.trim() === '') {
      this.refused.set($localize`say why it is meant to be so`);
      return;
    }
    const list = this.workspace.compiled().file?.accept ?? [];
    const value = { finding, because: because.trim() };
    const [first] = this.workspace.apply($localize`accept ${finding}`, [
      list.length === 0
        ? { path: ['accept'], value: [value] }
        : { path: ['accept', list.length], value, insert: true },
    ]);
    this.refused.set(first?.message);
  }

  protected show(fingerprint: string): void {
    if (this.open() !== fingerprint) this.go(fingerprint);
  }

  protected close(fingerprint: string): void {
    if (this.open() === fingerprint) this.go(null);
  }

  private go(open: string | null): void {
    void this.router.navigate([], { queryParams: { open }, replaceUrl: true });
  }

  /** Where in the model a finding is: the cell of its crossing, or the state's sheet. */
  private modelLink(f: Finding): Record<string, string | number> {
    const machine = this.workspace.machine();
    const lane = machine?.lanes.find((l) => l.name === f.lane);
    const crossing = f.crossing === null ? undefined : lane?.crossings[f.crossing.index];
    if (machine === undefined || crossing === undefined) return { lane: f.lane, state: f.state };
    const row = crossing.from.length === 0 ? '*' : machine.states[crossing.from[0]!]!.name;
    return {
      lane: f.lane,
      from: row,
      to: machine.states[crossing.to]!.name,
      crossing: crossing.index,
      state: f.state,
    };
  }

  /** The tape that scouting found, when it is not on the shelf. */
  private tapeOf({ witness }: Finding): { text: string; tick: number } | undefined {
    return witness?.text === undefined ? undefined : { text: witness.text, tick: witness.tick };
  }

  private runLink(f: Finding): Record<string, string | number> | undefined {
    return f.witness === null || f.witness.text !== undefined
      ? undefined
      : { tape: slugOf(f.witness.tape), tick: f.witness.tick };
  }
}
