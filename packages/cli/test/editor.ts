import { type ChildProcess, spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { pathToFileURL } from 'node:url';
import {
  type CodeAction,
  createProtocolConnection,
  type Diagnostic,
  type Position,
  type ProtocolConnection,
  type PublishDiagnosticsParams,
  StreamMessageReader,
  StreamMessageWriter,
  type TextEdit,
  type WorkspaceEdit,
} from 'vscode-languageserver/node';
import { TextDocument } from 'vscode-languageserver-textdocument';
import { root } from './glenmark.js';

/** How long an answer may take before it is given up (ms). */
const PATIENCE = 120_000;

/** An editor with a folder open: a client of the language server over standard input and output. */
export interface Editor {
  /** Opens a file of the folder, as it is on the disk, unless it is open. */
  open(name: string): Promise<TextDocument>;
  /** Types over all of an open document. */
  type(name: string, text: string): Promise<void>;
  close(name: string): Promise<void>;
  /** What an open document has now. */
  textOf(name: string): string;
  /** The place of the first (or given) occurrence of a text, `into` characters further. */
  at(name: string, text: string, into?: number): Position;
  ask<R>(method: string, name: string, params?: object): Promise<R>;
  /** Waits until what is underlined in a document is as wanted. */
  underlined(name: string, isWanted: (diagnostics: Diagnostic[]) => boolean): Promise<Diagnostic[]>;
  /** The texts of all documents that an edit changes, after it. */
  applied(edit: WorkspaceEdit): Record<string, string>;
  /** Asks for the actions at a place until one of that title is there. */
  action(name: string, position: Position, title: RegExp): Promise<CodeAction>;
  quit(): Promise<number | null>;
}

/** Starts the language server and opens a folder with it. */
export async function openEditor(folder: string): Promise<Editor> {
  const server: ChildProcess = spawn(
    process.execPath,
    ['packages/cli/bin/glenmark.js', 'language-server', '--stdio'],
    {
      cwd: root,
      stdio: ['pipe', 'pipe', 'inherit'],
    },
  );
  const ended = new Promise<number | null>((done) => server.once('close', done));
  const connection: ProtocolConnection = createProtocolConnection(
    new StreamMessageReader(server.stdout!),
    new StreamMessageWriter(server.stdin!),
  );
  const documents = new Map<string, TextDocument>();
  const published = new Map<string, Diagnostic[]>();
  const waiting = new Set<() => void>();
  connection.onNotification(
    'textDocument/publishDiagnostics',
    ({ uri, diagnostics }: PublishDiagnosticsParams) => {
      published.set(uri, diagnostics);
      waiting.forEach((look) => look());
    },
  );
  connection.listen();
  const uriOf = (name: string): string => pathToFileURL(`${folder}/${name}`).href;
  const documentOf = (name: string): TextDocument =>
    documents.get(uriOf(name)) ??
    TextDocument.create(uriOf(name), 'yaml', 0, readFileSync(`${folder}/${name}`, 'utf8'));
  await connection.sendRequest('initialize', {
    processId: process.pid,
    rootUri: null,
    workspaceFolders: [{ uri: pathToFileURL(folder).href, name: 'folder' }],
    capabilities: {},
  });
  await connection.sendNotification('initialized', {});
  const editor: Editor = {
    async open(name) {
      const document = documentOf(name);
      if (documents.has(document.uri)) return document;
      documents.set(document.uri, document);
      await connection.sendNotification('textDocument/didOpen', {
        textDocument: { uri: document.uri, languageId: 'yaml', version: 0, text: document.getText() },
      });
      return document;
    },
    async type(name, text) {
      const before = documentOf(name);
      const document = TextDocument.create(before.uri, 'yaml', before.version + 1, text);
      documents.set(document.uri, document);
      await connection.sendNotification('textDocument/didChange', {
        textDocument: { uri: document.uri, version: document.version },
        contentChanges: [{ text }],
      });
    },
    async close(name) {
      documents.delete(uriOf(name));
      await connection.sendNotification('textDocument/didClose', { textDocument: { uri: uriOf(name) } });
    },
    textOf: (name) => documentOf(name).getText(),
    at(name, text, into = 0) {
      const document = documentOf(name);
      const offset = document.getText().indexOf(text);
      if (offset < 0) throw new Error(`'${text}' is not in ${name}`);
      return document.positionAt(offset + into);
    },
    ask: (method, name, params = {}) =>
      connection.sendRequest(method, { textDocument: { uri: uriOf(name) }, ...params }),
    underlined: (name, isWanted) =>
      new Promise((done, fail) => {
        const uri = uriOf(name);
        const late = setTimeout(() => {
          fail(new Error(`${name} is underlined otherwise: ${JSON.stringify(published.get(uri), null, 2)}`));
        }, PATIENCE);
        const look = (): void => {
          const now = published.get(uri);
          if (now === undefined || !isWanted(now)) return;
          clearTimeout(late);
          waiting.delete(look);
          done(now);
        };
        waiting.add(look);
        look();
      }),
    applied: ({ changes = {} }) =>
      Object.fromEntries(
        Object.entries(changes).map(([uri, edits]: [string, TextEdit[]]) => {
          const name = decodeURIComponent(uri.slice(pathToFileURL(folder).href.length + 1));
          return [name, TextDocument.applyEdits(documentOf(name), edits)];
        }),
      ),
    async action(name, position, title) {
      for (const until = Date.now() + PATIENCE; Date.now() < until;) {
        const actions = await editor.ask<CodeAction[]>('textDocument/codeAction', name, {
          range: { start: position, end: position },
          context: { diagnostics: [] },
        });
        const wanted = actions.find((action) => title.test(action.title));
        if (wanted !== undefined) return wanted;
        await new Promise((later) => setTimeout(later, 50));
      }
      throw new Error(`no action of ${name} is called ${String(title)}`);
    },
    async quit() {
      await connection.sendRequest('shutdown');
      await connection.sendNotification('exit');
      return ended;
    },
  };
  return editor;
}
