import { MatButton } from '@angular/material/button';
import { MatSlideToggleModule } from '@angular/material/slide-toggle';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  CSP_NONCE,
  DestroyRef,
  effect,
  type ElementRef,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { EditorView } from '@codemirror/view';
import { readMoveset } from '@glenmark/core/machine';
import { type Diagnostic, errorsOf, locate, type Path, parseSource } from '@glenmark/core/model';
import { debounceTime, Subject } from 'rxjs';
import { Workspace } from '../../../data/workspace';
import { store, stored } from '../../../shared/ui/browser-store';
import { createEditor, showFaults, showLine, showText, wrapLines } from './editor';

/** The name under which the browser remembers that lines shall not wrap. */
const WRAPS = 'wraps';

/**
 * The whole document as text, both ways. What does not load stays here with its faults, and everything else goes on
 * showing the last text that does.
 */
@Component({
  selector: 'gm-text-pane',
  imports: [MatButton, MatSlideToggleModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './text-pane.html',
  styleUrl: './text-pane.scss',
})
export class TextPane {
  private readonly workspace = inject(Workspace);
  /** Where in the document the caret should be. */
  readonly at = input<Path | undefined>();

  private readonly host = viewChild.required<ElementRef<HTMLElement>>('host');
  private readonly view = signal<EditorView | undefined>(undefined);
  private readonly typed = new Subject<string>();
  protected readonly faults = signal<Diagnostic[]>([]);
  protected readonly wraps = signal(stored(WRAPS) !== 'no');
  /** The moveset was changed elsewhere while the text here does not load. */
  protected readonly elsewhere = signal(false);
  protected readonly word = computed(() => {
    const [first] = this.faults();
    if (first === undefined) return $localize`Valid changes apply immediately.`;
    return $localize`Line ${first.line}\: ${first.message}. The rest shows the last text that loads.`;
  });
  /** What the editor was given last; a change that comes from there is no typing. */
  private given = '';

  constructor() {
    const destroyed = inject(DestroyRef);
    const nonce = inject(CSP_NONCE);
    afterNextRender(() => {
      this.given = this.workspace.text();
      const view = createEditor(this.host().nativeElement, this.given, {
        nonce,
        wraps: this.wraps(),
        machine: () => this.workspace.machine(),
        changed: (text) => {
          if (text !== this.given) this.typed.next(text);
        },
      });
      this.view.set(view);
      destroyed.onDestroy(() => view.destroy());
    });
    this.typed.pipe(debounceTime(200), takeUntilDestroyed()).subscribe((text) => this.take(text));
    effect(() => {
      const [view, text] = [this.view(), this.workspace.text()];
      untracked(() => {
        if (view === undefined || text === this.given) return;
        // A faulty text stays until it is mended here, or dropped.
        if (this.faults().length > 0) this.elsewhere.set(true);
        else this.showGood();
      });
    });
    effect(() => {
      const [view, path] = [this.view(), this.at()];
      untracked(() => {
        const { source } = parseSource(this.workspace.text());
        if (view !== undefined && path !== undefined && source !== undefined)
          showLine(view, locate(source, path, { key: true }).line);
      });
    });
  }

  protected wrap(wraps: boolean): void {
    this.wraps.set(wraps);
    store(WRAPS, wraps ? undefined : 'no');
    const view = this.view();
    if (view !== undefined) wrapLines(view, wraps);
  }

  protected dropMine(): void {
    this.showGood();
  }

  private showGood(): void {
    this.given = this.workspace.text();
    this.elsewhere.set(false);
    showText(this.view()!, this.given);
    this.show([]);
  }

  private take(text: string): void {
    const wrong = errorsOf(readMoveset(text).diagnostics);
    this.show(wrong);
    if (wrong.length > 0) return;
    this.given = text;
    this.elsewhere.set(false);
    this.workspace.replace($localize`edit the text`, text, { goesOn: true });
  }

  private show(faults: Diagnostic[]): void {
    this.faults.set(faults);
    const view = this.view();
    if (view !== undefined) showFaults(view, faults);
  }
}
