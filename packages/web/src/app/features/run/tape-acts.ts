import { inject, Injectable } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { type Change, fragmentText, renameKey } from '@glenmark/core/model';
import { inputsCsv, readInputsCsv, type Session, tapeInputs, traceCsv } from '@glenmark/core/run';
import { TapeDesk } from '../../data/tape-desk';
import { Workspace } from '../../data/workspace';
import { NameDialog } from '../../shared/ui/name-dialog';
import { saveFile } from '../../shared/ui/save-file';
import type { BarChange } from './score/control-row';
import type { Stretch } from '../../shared/document/score-rows';
import { clearSpan, cutSpan, heldIn, heldOf, pasteAt, repeatSpan, resized } from './span-edits';
import { drivenText, marking, notMarking, putBar, regriddedText } from './tape-edits';
import { Notifications } from '../../shared/ui/notifications';

/** What a person does to the open tape, each a step that can be undone; what cannot be done is told. */
@Injectable({ providedIn: 'root' })
export class TapeActs {
  private readonly desk = inject(TapeDesk);
  private readonly workspace = inject(Workspace);
  private readonly notifications = inject(Notifications);
  private readonly dialog = inject(MatDialog);

  editBar({ control, old, next }: BarChange): void {
    const tape = this.desk.tape();
    if (tape === undefined) return;
    const what =
      next === undefined
        ? $localize`remove ${control}`
        : old === undefined
          ? $localize`draw ${control}`
          : $localize`change ${control}`;
    this.apply(what, putBar(tape, control, old, next));
  }

  setLength(ticks: number): void {
    const tape = this.desk.tape();
    if (tape === undefined) return;
    if (!Number.isInteger(ticks) || ticks < 1)
      return this.notifications.say($localize`A tape lasts a whole number of ticks, at least 1.`);
    this.apply($localize`length of the tape`, resized(tape, ticks));
  }

  editSpan(act: 'repeat' | 'clear' | 'cut', span: Stretch): void {
    const tape = this.desk.tape();
    if (tape === undefined) return;
    const [first, last] = [span.from, span.to - 1];
    const what = {
      repeat: $localize`repeat ticks ${first} to ${last}`,
      clear: $localize`let go in ticks ${first} to ${last}`,
      cut: $localize`remove ticks ${first} to ${last}`,
    }[act];
    const changes = { repeat: repeatSpan, clear: clearSpan, cut: cutSpan }[act](tape, span);
    if (changes === undefined)
      return this.notifications.say($localize`That is the whole tape: at least one tick stays.`);
    this.apply(what, changes);
  }

  copySpan(span: Stretch): void {
    const tape = this.desk.tape();
    if (tape === undefined) return;
    navigator.clipboard.writeText(fragmentText(heldIn(tape, span))).then(
      () =>
        this.notifications.say(
          $localize`${span.to - span.from} ticks are copied. Ctrl V puts them in at the playhead.`,
        ),
      () => this.notifications.say($localize`The browser does not let this page use the clipboard.`),
    );
  }

  /** Puts copied ticks in; false for a text that is something else. */
  paste(text: string, tick: number): boolean {
    const tape = this.desk.tape();
    const held = heldOf(text);
    if (tape === undefined || held === undefined) return false;
    this.apply(
      $localize`insert ${held.ticks} ticks at ${tick}`,
      pasteAt(tape, Math.min(tick, tape.ticks), held),
    );
    return true;
  }

  /** Asks for a name and marks a tick with it. */
  mark(tick: number): void {
    this.askName($localize`Mark this tick`, $localize`Mark`).subscribe((name) => {
      const tape = this.desk.tape();
      if (name !== undefined && tape !== undefined)
        this.apply($localize`mark ${name}`, marking(tape, name, tick));
    });
  }

  renameMark(old: string): void {
    this.askName($localize`Rename ${old}`, $localize`Rename`).subscribe((name) => {
      if (name !== undefined)
        this.replace($localize`rename ${old}`, renameKey(this.desk.text(), ['marks', old], name));
    });
  }

  removeMark(name: string): void {
    const tape = this.desk.tape();
    if (tape !== undefined) this.apply($localize`remove mark ${name}`, notMarking(tape, name));
  }

  /** The inputs of the tape are those that were driven, or read from a file. */
  setInputs(name: string, inputs: readonly (readonly number[])[]): void {
    const tape = this.desk.tape();
    const machine = this.workspace.machine();
    if (tape === undefined || machine === undefined || inputs.length === 0) return;
    this.replace(name, drivenText(tape, machine, this.workspace.id()!, inputs));
  }

  /** Lays the tape on the ticks of the moveset. */
  regrid(): void {
    const tape = this.desk.tape();
    const machine = this.workspace.machine();
    if (tape === undefined || machine === undefined) return;
    const name = $localize`convert to ${machine.rate} ticks per second`;
    this.replace(name, regriddedText(tape, machine, this.workspace.id()!));
  }

  async readCsv(file: File): Promise<void> {
    const machine = this.workspace.machine();
    if (machine === undefined) return;
    const { inputs, diagnostics } = readInputsCsv(machine, await file.text());
    const [first] = diagnostics;
    if (first !== undefined)
      return this.notifications.say(
        $localize`${file.name}, line ${first.line}, field ${first.column}\: ${first.message}.`,
      );
    this.setInputs($localize`inputs of ${file.name}`, inputs!);
  }

  saveCsv(what: 'inputs' | 'run', session: Session): void {
    const tape = this.desk.tape();
    const { machine } = session.trace;
    if (tape === undefined) return;
    const text = what === 'run' ? traceCsv(session.trace) : inputsCsv(machine, tapeInputs(tape, machine));
    saveFile(`${this.desk.id()}${what === 'run' ? '-run' : ''}.csv`, new Blob([text], { type: 'text/csv' }));
  }

  saveYaml(): void {
    saveFile(`${this.desk.id()}.tape.yaml`, new Blob([this.desk.text()], { type: 'application/yaml' }));
  }

  /** A control that the moveset does not have goes by another name, or is left out. */
  remap(control: string, to: string | undefined): void {
    if (to === undefined) {
      const tape = this.desk.tape()!;
      const path = tape.inputs.length === 1 ? ['inputs'] : ['inputs', control];
      this.apply($localize`leave out ${control}`, [{ path }]);
    } else
      this.replace($localize`play ${control} as ${to}`, renameKey(this.desk.text(), ['inputs', control], to));
  }

  private askName(title: string, action: string) {
    const taken = this.desk.tape()?.marks.map((m) => m.name) ?? [];
    return this.dialog
      .open<NameDialog, NameDialog['data'], string>(NameDialog, {
        data: { title, label: $localize`Name of the mark`, action, taken },
      })
      .afterClosed();
  }

  private apply(name: string, changes: readonly Change[]): void {
    this.notifications.unlessDone(this.desk.apply(name, changes)[0]);
  }

  private replace(name: string, text: string): void {
    const [wrong] = this.desk.replace(name, text);
    if (wrong !== undefined) this.notifications.say($localize`Not kept: ${wrong.message}.`);
  }
}
