import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readMoveset } from '@glenmark/core/machine';
import { readTape, runTape } from '@glenmark/core/run';
import { readCourse } from '@glenmark/core/world';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type {
  CompletionItem,
  DocumentSymbol,
  FoldingRange,
  Hover,
  Location,
  TextEdit,
  WorkspaceEdit,
} from 'vscode-languageserver/node';
import { TextDocument } from 'vscode-languageserver-textdocument';
import { type Editor, openEditor } from './editor.js';
import { glenmark, root } from './glenmark.js';

let folder: string;
let editor: Editor;

beforeEach(async () => {
  await editor.open('courier.yaml');
  await editor.open('courier-draft.yaml');
});
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'glenmark-editor-'));
  cpSync(join(root, 'examples'), folder, { recursive: true });
  editor = await openEditor(folder);
});
afterAll(async () => {
  expect(await editor.quit()).toBe(0);
  rmSync(folder, { recursive: true });
});

const hoverAt = async (name: string, text: string, into = 0): Promise<string> => {
  const position = editor.at(name, text, into);
  const hover = await editor.ask<Hover | null>('textDocument/hover', name, { position });
  return hover === null ? '' : (hover.contents as { value: string }).value;
};

/** What is offered where `^` stands, once the document is typed so. */
const offeredAt = async (name: string, text: string): Promise<CompletionItem[]> => {
  await editor.type(name, text.replace('^', ''));
  const document = TextDocument.create('', '', 0, text);
  const position = document.positionAt(text.indexOf('^'));
  return editor.ask<CompletionItem[]>('textDocument/completion', name, { position });
};

describe('an editor with the examples open', () => {
  it('renames a state across guards, in its moveset and in the tapes that are made for it', async () => {
    await editor.open('marram.yaml');
    const before = editor.textOf('marram.yaml');
    const { machine } = readMoveset(before);
    const state = machine!.references.find(({ kind, use }) => kind === 'state' && use === 'read')!.name;
    const position = editor.at('marram.yaml', `${state}:`);
    const at = { position, newName: 'Otherwise' };
    const edit = await editor.ask<WorkspaceEdit>('textDocument/rename', 'marram.yaml', at);
    const texts = editor.applied(edit);
    expect(Object.keys(texts)).toContain('marram.yaml');
    const renamed = readMoveset(texts['marram.yaml']!);
    expect(renamed.diagnostics).toEqual([]);
    // Every word that was the name is the other one now, and nothing else has changed.
    const back = texts['marram.yaml']!.replaceAll(/\bOtherwise\b/g, state);
    expect(back).toBe(before);
    expect(renamed.machine!.references.filter(({ name }) => name === state)).toEqual([]);
    for (const [name, text] of Object.entries(texts)) {
      if (name === 'marram.yaml') continue;
      const { tape } = readTape(text);
      const course = readCourse(editor.textOf('tide-mill.yaml')).course!;
      expect(runTape(renamed.machine!, course, tape!).diagnostics, name).toEqual([]);
    }
  });

  it('renames a state in the tapes that expect it', async () => {
    const at = { position: editor.at('courier.yaml', 'Slide:'), newName: 'Skid' };
    const texts = editor.applied(await editor.ask<WorkspaceEdit>('textDocument/rename', 'courier.yaml', at));
    const tapes = Object.keys(texts).filter((name) => name !== 'courier.yaml');
    expect(tapes).toContain('culvert-slide.yaml');
    const machine = readMoveset(texts['courier.yaml']!).machine!;
    const course = readCourse(editor.textOf('mill-yard.yaml')).course!;
    for (const name of tapes) {
      const was = runTape(
        readMoveset(editor.textOf('courier.yaml')).machine!,
        course,
        readTape(editor.textOf(name)).tape!,
      );
      const is = runTape(machine, course, readTape(texts[name]!).tape!);
      expect(is.session!.expectations.map((e) => e.passed)).toEqual(
        was.session!.expectations.map((e) => e.passed),
      );
    }
  });

  it('refuses a name that is taken, that is none, or that is of a course, and says why', async () => {
    const rename = (text: string, newName: string): Promise<unknown> =>
      editor.ask('textDocument/rename', 'courier.yaml', {
        position: editor.at('courier.yaml', text),
        newName,
      });
    await expect(rename('Slide:', 'Trot')).rejects.toThrow(
      "found 'Trot', which is the name of something else already",
    );
    await expect(rename('Slide:', '7 up')).rejects.toThrow("found '7 up', expected a name");
    await expect(rename('hopHeight', 'grounded')).rejects.toThrow('is a word of the notation');
  });

  it('goes to where a name is declared, and lists all that use it, in tapes too', async () => {
    const name = 'courier.yaml';
    const position = editor.at(name, 'to: Slide', 5);
    const lines = (locations: Location[]): string[] =>
      locations.map(({ uri, range: { start } }) => `${uri.split('/').at(-1)}:${start.line + 1}`);
    const [declared] = await editor.ask<Location[]>('textDocument/definition', name, { position });
    expect(declared!.range.start).toEqual(editor.at(name, 'Slide:'));
    const context = { includeDeclaration: false };
    const uses = await editor.ask<Location[]>('textDocument/references', name, { position, context });
    expect(lines(uses)).toContain('culvert-slide.yaml:16');
    expect(uses.filter(({ uri }) => uri.endsWith('/courier.yaml'))).toHaveLength(4);
    const all = await editor.ask<Location[]>('textDocument/references', name, {
      position,
      context: { includeDeclaration: true },
    });
    expect(all).toHaveLength(uses.length + 1);
    await editor.open('culvert-slide.yaml');
    const there = { position: editor.at('culvert-slide.yaml', 'moveset: ', 10) };
    const [moveset] = await editor.ask<Location[]>('textDocument/definition', 'culvert-slide.yaml', there);
    expect(moveset!.uri.endsWith('/courier.yaml')).toBe(true);
    await editor.close('culvert-slide.yaml');
  });

  it('tells what a name is, what was found of it, and how a state answers its controls', async () => {
    await editor.underlined('courier-draft.yaml', (all) => all.length > 3);
    expect(await hoverAt('courier.yaml', 'trotSpeed', 2)).toMatch(/a dial, a speed, in m\/s\*\*\s+6\.2 m\/s/);
    expect(await hoverAt('courier.yaml', 'Trot:', 1)).toContain('the axis gives 6.2 m/s in 0.12 s');
    expect(await hoverAt('courier.yaml', 'Trot:', 1)).toContain('Nothing found.');
    expect(await hoverAt('courier-draft.yaml', 'Perch:', 1)).toContain(
      'IN1 no way in, proved: Perch can never be entered',
    );
    expect(await hoverAt('courier.yaml', 'grounded }', 1)).toContain(
      'the body stands on ground it can walk on',
    );
  });

  it('underlines what is found, with its reason and the places that it comes from', async () => {
    const name = 'courier-draft.yaml';
    const found = await editor.underlined(name, (all) => all.length > 3);
    const knelt = found.find(({ code }) => code === 'OUT2')!;
    expect(knelt.message).toContain('Kneel can never be left');
    expect(knelt.severity).toBe(1);
    const timer = knelt.relatedInformation!.find(({ message }) => message.includes('kneelTime'))!;
    expect(timer.location.range.start).toEqual(editor.at(name, 'kneelTime:'));
    // Each as the command line has it, at the same line.
    const { out } = glenmark('check', join(folder, name), '--format', 'json');
    const { findings } = JSON.parse(out) as {
      findings: { code: string; place: { line: number }; accepted: string | null }[];
    };
    const proved = findings
      .filter(({ accepted }) => accepted === null)
      .map(({ code, place }) => `${code} ${place.line}`);
    const told = found.map(({ code, range }) => `${String(code)} ${range.start.line + 1}`);
    for (const each of proved) expect(told).toContain(each);
  });

  it('mends a finding by a repair that was tried, and then no longer tells of it', async () => {
    const name = 'courier-draft.yaml';
    const repair = await editor.action(
      name,
      editor.at(name, 'to: Trot, when: done(kneelTime)'),
      /^Start kneelTime/,
    );
    expect(repair.isPreferred).toBe(true);
    const before = editor.textOf(name);
    await editor.type(name, editor.applied(repair.edit!)[name]!);
    await editor.underlined(name, (all) => all.length > 3 && !all.some(({ code }) => code === 'OUT2'));
    await editor.type(name, before);
    await editor.underlined(name, (all) => all.some(({ code }) => code === 'OUT2'));
  });

  it('accepts a finding once a reason is given', async () => {
    const name = 'courier-draft.yaml';
    const before = editor.textOf(name);
    const accept = await editor.action(name, editor.at(name, 'Perch:'), /^Accept IN1/);
    const asked = editor.applied(accept.edit!)[name]!;
    await editor.type(name, asked);
    const [missing] = await editor.underlined(name, (all) => all.length === 1);
    expect(missing!.message).toContain('expected the reason');
    await editor.type(name, asked.replace('because: ""', 'because: "she lands there later"'));
    await editor.underlined(name, (all) => all.length > 3 && !all.some(({ code }) => code === 'IN1'));
    await editor.type(name, before);
  });

  it('says what is broken where, and what a tape expects in vain', async () => {
    const name = 'courier.yaml';
    const before = editor.textOf(name);
    await editor.type(name, before.replace('pressed(tuck)', 'pressed(tck)'));
    const [fault] = await editor.underlined(name, (all) => all.length === 1);
    expect(fault).toMatchObject({ severity: 1, range: { start: editor.at(name, 'tck') } });
    expect(fault!.message).toContain("did you mean 'tuck'?");
    await editor.type(name, before);
    await editor.underlined(name, (all) => all.length === 0);

    await editor.open('culvert-slide.yaml');
    const tape = editor.textOf('culvert-slide.yaml');
    await editor.type('culvert-slide.yaml', tape.replace('at 40 in Slide', 'at 40 in Gust'));
    const [missed] = await editor.underlined('culvert-slide.yaml', (all) => all.length === 1);
    expect(missed).toMatchObject({
      severity: 2,
      range: { start: editor.at('culvert-slide.yaml', 'at 40 in Gust') },
    });
    expect(missed!.message).toContain('missed in tick 40');
    await editor.type('culvert-slide.yaml', tape.replace('tuck:', 'tock:'));
    await editor.underlined('culvert-slide.yaml', (all) =>
      all.some(({ message }) => String(message).includes("no control 'tock'")),
    );
    await editor.close('culvert-slide.yaml');
  });

  it('completes the notation, the keys and the names, and the text is as it should be then', async () => {
    const name = 'courier.yaml';
    const before = editor.textOf(name);
    const taken = async (text: string, label: string): Promise<string> => {
      const items = await offeredAt(name, text);
      const item = items.find((each) => each.label === label)!;
      expect(item.detail).not.toBe('');
      const typed = TextDocument.create('', '', 0, text.replace('^', ''));
      return TextDocument.applyEdits(typed, [item.textEdit as TextEdit]);
    };
    const whole = before.replace('when: pressed(tuck) and grounded', 'when: pressed(tuck) and gr^');
    expect(await taken(whole, 'grounded')).toBe(before);
    expect(await taken(before.replace('pressed(tuck)', 'pressed(tu^)'), 'tuck')).toBe(before);
    expect(await taken(before.replace('to: Slide,', 'to: Sl^,'), 'Slide')).toBe(before);
    expect(await taken(before.replace('reenter: true', 'reen^'), 'reenter:')).toBe(
      before.replace('reenter: true', 'reenter: '),
    );
    await editor.type(name, before);
  });

  it('outlines, folds and formats a document', async () => {
    const name = 'courier.yaml';
    const before = editor.textOf(name);
    const symbols = await editor.ask<DocumentSymbol[]>('textDocument/documentSymbol', name);
    const legs = symbols.find((symbol) => symbol.name === 'legs')!;
    expect(legs.children!.map((state) => state.name)).toEqual(['Trot', 'Aloft', 'Slide', 'Gust']);
    expect(legs.children![1]!.children!.map((state) => state.name)).toEqual(['Rise', 'Fall']);
    const folds = await editor.ask<FoldingRange[]>('textDocument/foldingRange', name);
    expect(folds).toContainEqual({
      startLine: legs.range.start.line,
      endLine: editor.at(name, '- name: parasol').line - 1,
    });
    await editor.type(name, before.replace('when: pressed(tuck) and', 'when:   pressed( tuck )   and'));
    const edits = await editor.ask<TextEdit[]>('textDocument/formatting', name, {
      options: { tabSize: 2, insertSpaces: true },
    });
    // Only the line that was not as it should be is touched.
    expect(edits).toHaveLength(1);
    expect(TextDocument.applyEdits(TextDocument.create('', '', 0, editor.textOf(name)), edits)).toBe(before);
    await editor.type(name, before);
  });

  it('answers nothing about what is none of its documents, and goes on', async () => {
    const position = { line: 0, character: 0 };
    for (const method of ['hover', 'definition', 'completion', 'prepareRename'])
      expect(await editor.ask(`textDocument/${method}`, 'nowhere.yaml', { position })).toBeNull();
    expect(await hoverAt('courier.yaml', 'trotSpeed', 2)).not.toBe('');
  });
});
