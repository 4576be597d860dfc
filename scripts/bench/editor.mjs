// How soon the language server answers: from a letter that is typed to the answer about the text that has it.
import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import {
  createProtocolConnection,
  StreamMessageReader,
  StreamMessageWriter,
} from 'vscode-languageserver/node';
import { isBrief, report } from './measure.mjs';
import { largeMoveset } from './movesets.mjs';

const root = fileURLToPath(new URL('../../', import.meta.url));
const ROUNDS = isBrief ? 1 : 15;

/** What is asked for after each letter, at a place in the guard that is being written. */
const ASKED = {
  'complete a guard': ['textDocument/completion', {}],
  'help for a state': ['textDocument/hover', {}],
  'rename a state': ['textDocument/rename', { newName: 'Otherwise' }],
  outline: ['textDocument/documentSymbol', {}],
};

export async function benchEditor() {
  const demo = readFileSync(join(root, 'examples/courier.yaml'), 'utf8');
  await measure('the courier', demo, 'Slide:', 150);
  const large = largeMoveset(4, 60, 400);
  await measure('60 states', large, `${/^ +(\w+):.*stance/m.exec(large)[1]}:`, 400);
}

async function measure(what, text, state, most) {
  const folder = mkdtempSync(join(tmpdir(), 'glenmark-bench-'));
  const file = join(folder, 'moveset.yaml');
  writeFileSync(file, text);
  const uri = pathToFileURL(file).href;
  const server = spawn(process.execPath, [join(root, 'packages/cli/bin/glenmark.js'), 'language-server']);
  const connection = createProtocolConnection(
    new StreamMessageReader(server.stdout),
    new StreamMessageWriter(server.stdin),
  );
  let published = () => {};
  connection.onNotification('textDocument/publishDiagnostics', () => published());
  connection.listen();
  const workspaceFolders = [{ uri: pathToFileURL(folder).href, name: 'bench' }];
  await connection.sendRequest('initialize', {
    processId: null,
    rootUri: null,
    workspaceFolders,
    capabilities: {},
  });
  await connection.sendNotification('initialized', {});
  await connection.sendNotification('textDocument/didOpen', {
    textDocument: { uri, languageId: 'yaml', version: 0, text },
  });
  const before = text.slice(0, text.indexOf('when: ') + 'when: '.length).split('\n');
  const guard = { line: before.length - 1, character: before.at(-1).length };
  const lines = text.split('\n');
  const line = lines.findIndex((each) => each.trim().startsWith(state));
  const declared = { line, character: lines[line].indexOf(state) + 1 };
  let version = 0;
  const change = (range, put) =>
    connection.sendNotification('textDocument/didChange', {
      textDocument: { uri, version: ++version },
      contentChanges: [{ range, text: put }],
    });
  const typed = { start: guard, end: { ...guard, character: guard.character + 1 } };
  for (const [name, [method, more]] of Object.entries(ASKED)) {
    const times = [];
    for (let round = 0; round < ROUNDS + 1; round++) {
      const isGuard = method === 'textDocument/completion';
      // A guard that begins with a letter more is none, so for the others something that still loads is written.
      const put = isGuard ? 'g' : ' ';
      const began = performance.now();
      await change({ start: guard, end: guard }, put);
      const position = isGuard ? typed.end : declared;
      const answer = await connection.sendRequest(method, { textDocument: { uri }, position, ...more });
      times.push(performance.now() - began);
      if (answer === null || answer.length === 0) throw new Error(`${name}: no answer`);
      await change(typed, '');
    }
    // The first answer finds nothing compiled yet.
    const [, ...warm] = times;
    report(
      `${name}, a letter before, ${what} (the longest of ${ROUNDS})`,
      Math.max(...warm),
      'ms',
      `target: under ${most} ms`,
    );
  }
  const told = [];
  for (let round = 0; round < (isBrief ? 1 : 5); round++) {
    const began = performance.now();
    const answered = new Promise((done) => (published = done));
    await change({ start: guard, end: guard }, '(');
    await answered;
    told.push(performance.now() - began);
    published = () => {};
    await change(typed, '');
  }
  report(
    `underline a fault, ${what} (the longest of ${told.length})`,
    Math.max(...told),
    'ms',
    `target: under ${most} ms`,
  );
  await connection.sendRequest('shutdown');
  await connection.sendNotification('exit');
  await new Promise((done) => server.once('close', done));
  rmSync(folder, { recursive: true });
}
