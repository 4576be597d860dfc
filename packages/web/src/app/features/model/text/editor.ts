import { autocompletion, type CompletionContext, type CompletionResult } from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap, indentWithTab } from '@codemirror/commands';
import { yaml } from '@codemirror/lang-yaml';
import { HighlightStyle, indentUnit, syntaxHighlighting } from '@codemirror/language';
import { type Diagnostic as Mark, lintGutter, setDiagnostics } from '@codemirror/lint';
import { Compartment, EditorState } from '@codemirror/state';
import { EditorView, hoverTooltip, keymap, lineNumbers } from '@codemirror/view';
import { helpOfWord, suggestionsAt } from '@glenmark/core/language';
import type { Machine } from '@glenmark/core/machine';
import type { Diagnostic } from '@glenmark/core/model';
import { tags } from '@lezer/highlight';

const INK = HighlightStyle.define([
  { tag: tags.propertyName, color: 'var(--ink)', fontWeight: '600' },
  { tag: tags.string, color: 'var(--tide)' },
  { tag: tags.content, color: 'var(--tide)' },
  { tag: tags.number, color: 'var(--clay)' },
  { tag: tags.bool, color: 'var(--clay)' },
  { tag: tags.comment, color: 'var(--ink-3)' },
  { tag: tags.punctuation, color: 'var(--ink-3)' },
]);

/** What the editor asks its surroundings for, and tells them. */
export interface EditorNeeds {
  /** The last moveset that loaded: its names complete what is typed. */
  machine: () => Machine | undefined;
  changed: (text: string) => void;
  /** What the page's policy asks of every style that is added. */
  nonce: string | null;
  /** Whether long lines go on below, or run out of sight to the right. */
  wraps: boolean;
}

const wrapping = new Compartment();

/** A YAML editor in the colours of the application, with the notation's completion and its help on hover. */
export function createEditor(parent: HTMLElement, doc: string, needs: EditorNeeds): EditorView {
  const view = new EditorView({
    parent,
    state: EditorState.create({
      doc,
      extensions: [
        needs.nonce === null ? [] : EditorView.cspNonce.of(needs.nonce),
        wrapping.of(needs.wraps ? EditorView.lineWrapping : []),
        lineNumbers(),
        history(),
        yaml(),
        indentUnit.of('  '),
        syntaxHighlighting(INK),
        lintGutter(),
        autocompletion({ override: [(context) => completions(context, needs.machine())] }),
        hoverTooltip((view, pos) => {
          const { from, to, text } = wordAt(view.state, pos);
          const help = helpOfWord(text);
          if (help === undefined) return null;
          const textContent = [help.title, ...help.lines].join('. ');
          const dom = Object.assign(document.createElement('p'), { className: 'help', textContent });
          return { pos: from, end: to, above: true, create: () => ({ dom }) };
        }),
        keymap.of([...defaultKeymap, ...historyKeymap, indentWithTab]),
        EditorView.updateListener.of((update) => {
          if (update.docChanged) needs.changed(update.state.doc.toString());
        }),
        EditorView.contentAttributes.of({
          'aria-label': $localize`The moveset as text`,
          spellcheck: 'false',
        }),
      ],
    }),
  });
  // What scrolls must be reachable by keyboard.
  view.scrollDOM.tabIndex = 0;
  return view;
}

/** Lets long lines go on below, or not. */
export const wrapLines = (view: EditorView, wraps: boolean): void =>
  view.dispatch({ effects: wrapping.reconfigure(wraps ? EditorView.lineWrapping : []) });

/** Replaces the text by another, touching only what differs, so that cursor and selection stay where they are. */
export function showText(view: EditorView, text: string): void {
  const old = view.state.doc.toString();
  if (old === text) return;
  let from = 0;
  while (from < old.length && from < text.length && old[from] === text[from]) from++;
  let [end, newEnd] = [old.length, text.length];
  while (end > from && newEnd > from && old[end - 1] === text[newEnd - 1]) {
    end--;
    newEnd--;
  }
  view.dispatch({ changes: { from, to: end, insert: text.slice(from, newEnd) } });
}

/** Shows faults and warnings at their places. */
export function showFaults(view: EditorView, diagnostics: readonly Diagnostic[]): void {
  const { doc } = view.state;
  const marks = diagnostics.map((d): Mark => {
    const line = doc.line(Math.min(Math.max(1, d.line), doc.lines));
    const from = Math.min(line.from + d.column - 1, line.to);
    return { from, to: Math.max(from, line.to), severity: d.severity, message: d.message };
  });
  view.dispatch(setDiagnostics(view.state, marks));
}

/** Puts the caret at a line (from 1) and brings it into view. */
export function showLine(view: EditorView, line: number): void {
  const at = view.state.doc.line(Math.min(Math.max(1, line), view.state.doc.lines));
  view.dispatch({
    selection: { anchor: at.from },
    effects: EditorView.scrollIntoView(at.from, { y: 'center' }),
  });
}

function completions(context: CompletionContext, machine: Machine | undefined): CompletionResult | null {
  const text = context.state.doc.toString();
  if (!context.explicit && !/\w/.test(text.charAt(context.pos - 1))) return null;
  const suggestions = suggestionsAt({ text, kind: 'moveset' }, machine, context.pos);
  const [first] = suggestions;
  return first === undefined
    ? null
    : {
        from: first.start,
        to: first.end,
        options: suggestions.map(({ text: put, help }) => ({ label: put, detail: help })),
        validFor: /^\w*$/,
      };
}

function wordAt(state: EditorState, pos: number): { from: number; to: number; text: string } {
  const range = state.wordAt(pos);
  return range === null
    ? { from: pos, to: pos, text: '' }
    : { from: range.from, to: range.to, text: state.sliceDoc(range.from, range.to) };
}
