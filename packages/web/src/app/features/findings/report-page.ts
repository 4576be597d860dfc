import { MatButton } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { CATALOGUE, HELP, QUESTIONS, questionOf, type Question } from '@glenmark/core/findings';
import { Workspace } from '../../data/workspace';
import { CertaintyMark } from '../../shared/ui/certainty-mark';
import { MarkedText } from '../../shared/ui/marked-text';
import { WitnessView } from './witness-view';

/** All findings with their reasons and pictures, one after the other, to be printed or kept as a document. */
@Component({
  selector: 'gm-report-page',
  imports: [MatButton, CertaintyMark, MarkedText, WitnessView],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './report-page.html',
  styleUrl: './report-page.scss',
})
export class ReportPage {
  protected readonly workspace = inject(Workspace);
  protected readonly day = new Date().toISOString().slice(0, 10);
  protected readonly groups = computed(() =>
    (Object.keys(QUESTIONS) as Question[])
      .map((question) => ({
        title: QUESTIONS[question],
        findings: this.workspace
          .findings()
          .filter((f) => questionOf(f.code) === question)
          .map((f) => ({
            ...f,
            place: [f.lane, f.state].filter((part) => part !== '').join(' · '),
            name: CATALOGUE[f.code].name,
            repair: CATALOGUE[f.code].repair,
            hurts: HELP[f.code].hurts,
            tape: this.tapeOf(f),
          })),
      }))
      .filter((group) => group.findings.length > 0),
  );
  protected readonly count = computed(() => this.workspace.findings().length);

  /** The tape that shows it: the one that scouting found, or one of the shelf. */
  private tapeOf({ witness }: { witness: { text?: string; tape: string; tick: number } | null }) {
    if (witness === null) return undefined;
    const own = this.workspace.tapes().find((t) => t.tape.name === witness.tape)?.tape.text;
    const text = witness.text ?? own;
    return text === undefined ? undefined : { text, tick: witness.tick };
  }

  protected print(): void {
    window.print();
  }
}
