import { fileURLToPath } from 'node:url';
import type { Finding, Repair } from '@glenmark/core/findings';
import { faultsIn, findingsIn } from '@glenmark/core/language';
import { checkTape, compileExpectations } from '@glenmark/core/run';
import { diagnosticAt } from '@glenmark/core/model';
import {
  type Connection,
  DidChangeWatchedFilesNotification,
  FileChangeType,
  type InitializeParams,
  type InitializeResult,
  type Position,
  TextDocuments,
  TextDocumentSyncKind,
} from 'vscode-languageserver/node';
import { TextDocument } from 'vscode-languageserver-textdocument';
import * as answers from './answers.js';
import type { Missed } from './checking.js';
import { createChecks } from './checks.js';
import { createLater } from './later.js';
import { courseOf, createDesk, movesetOf, type Sheet, tapesOf } from './desk.js';
import { documentAt, filesIn } from './disk.js';
import { diagnosticOf } from './places.js';

/** How long nothing must change before a document is looked at again, and before a moveset is checked (ms). */
const PAUSE = 30;
const QUIET = 100;

/** What was found of a moveset, and in which text of it. */
interface Found {
  text: string;
  findings: readonly Finding[];
  repairs: ReadonlyMap<string, readonly Repair[]>;
}

/** Answers an editor over a connection until it says good-bye; `version` is Glenmark's own. */
export function serveEditor(connection: Connection, version: string): void {
  const open = new TextDocuments(TextDocument);
  const desk = createDesk();
  const found = new Map<string, Found>();
  const missed = new Map<string, readonly Missed[]>();
  const looksLater = createLater();
  const checksLater = createLater();
  let folders: string[] = [];
  let canWatch = false;
  let loaded: Promise<void> = Promise.resolve();

  const checks = createChecks(
    (answer) => {
      if ('findings' in answer) {
        const { uri, text, findings } = answer;
        found.set(uri, { text, findings, repairs: new Map() });
        const moveset = desk.get(uri);
        if (moveset === undefined) return;
        for (const tape of tapesOf(desk, moveset))
          missed.set(
            tape.uri,
            answer.missed.filter((each) => each.uri === tape.uri),
          );
        [moveset, ...tapesOf(desk, moveset)].forEach(publish);
      } else {
        const before = found.get(answer.uri);
        if (before?.text !== answer.text) return;
        const repairs = new Map(answer.repairs.map((each) => [each.fingerprint, each.repairs]));
        found.set(answer.uri, { ...before, repairs });
      }
    },
    (reason) =>
      connection.console.error(
        `A check failed, which is a fault of Glenmark: ${reason.stack ?? reason.message}`,
      ),
  );

  const findingsOf = (moveset: Sheet): readonly Finding[] => found.get(moveset.uri)?.findings ?? [];

  /** Says what is wrong with a document that is open. */
  function publish(sheet: Sheet): void {
    const { uri, text, document, isOpen } = sheet;
    if (!isOpen) return;
    const { source, moveset } = document;
    const faults = faultsIn(document.text, [...document.diagnostics, ...misfits(sheet)]);
    const findings =
      source === undefined || moveset === undefined
        ? []
        : findingsIn(source, moveset.machine, findingsOf(sheet));
    const diagnostics = [...faults, ...findings].map((trouble) => diagnosticOf(text, trouble));
    void connection.sendDiagnostics({ uri, diagnostics });
  }

  /** What of a tape does not fit its moveset, and what it expects in vain. */
  function misfits(sheet: Sheet): ReturnType<typeof checkTape> {
    const { tape, source } = sheet.document;
    const machine = movesetOf(desk, sheet)?.document.moveset?.machine;
    if (tape === undefined || source === undefined || machine === undefined) return [];
    const wrong = [...checkTape(tape.tape, machine), ...compileExpectations(tape.tape, machine).diagnostics];
    if (wrong.length > 0) return wrong;
    return (missed.get(sheet.uri) ?? []).map(({ index, tick, seen }) =>
      diagnosticAt(
        source,
        ['expect', index],
        `missed in tick ${tick}${seen === undefined ? '' : `: ${seen}`}`,
        {
          severity: 'warning',
        },
      ),
    );
  }

  /** Has a moveset checked, with its tapes, once nothing has changed for a while. */
  function checkSoon(moveset: Sheet | undefined): void {
    if (moveset === undefined) return;
    const { uri } = moveset;
    checksLater.after(QUIET, uri, () => checkNow(uri));
  }

  function checkNow(uri: string): void {
    const moveset = desk.get(uri);
    if (moveset?.document.moveset === undefined) return;
    const tapes = tapesOf(desk, moveset);
    if (!moveset.isOpen && !tapes.some((tape) => tape.isOpen)) return;
    checks.ask({
      uri,
      text: moveset.document.text,
      tapes: tapes.flatMap((tape) => {
        const course = courseOf(desk, tape);
        return course === undefined
          ? []
          : [{ uri: tape.uri, text: tape.document.text, course: course.document.text }];
      }),
    });
  }

  /** A document was put on the desk anew: it is looked at once nothing has changed for a moment, with what depends on it. */
  const changed = ({ uri }: Sheet): void => looksLater.after(PAUSE, uri, () => look(uri));

  function look(uri: string): void {
    const sheet = desk.get(uri);
    if (sheet === undefined) return;
    publish(sheet);
    const { kind } = sheet.document;
    if (kind === 'moveset') tapesOf(desk, sheet).forEach(publish);
    const movesets =
      kind === 'course'
        ? desk
            .all()
            .filter((tape) => courseOf(desk, tape) === sheet)
            .map((tape) => movesetOf(desk, tape))
        : [movesetOf(desk, sheet)];
    new Set(movesets).forEach(checkSoon);
  }

  /** Puts all documents of the open folders on the desk, and reads each, for the first question may be about all. */
  async function load(): Promise<void> {
    for (const file of await filesIn(folders)) {
      const document = documentAt(file);
      if (document !== undefined) void desk.put(document, false).document;
      // Whoever asks meanwhile is answered.
      await new Promise((done) => setImmediate(done));
    }
    desk
      .all()
      .filter(({ isOpen }) => isOpen)
      .forEach(changed);
  }

  connection.onInitialize((params: InitializeParams): InitializeResult => {
    folders = params.workspaceFolders?.map(({ uri }) => uri) ?? [params.rootUri ?? []].flat();
    canWatch = params.capabilities.workspace?.didChangeWatchedFiles?.dynamicRegistration === true;
    return {
      serverInfo: { name: 'Glenmark', version },
      capabilities: {
        textDocumentSync: TextDocumentSyncKind.Incremental,
        completionProvider: { triggerCharacters: [' ', '(', '"', '{', '['] },
        hoverProvider: true,
        definitionProvider: true,
        referencesProvider: true,
        renameProvider: { prepareProvider: true },
        documentSymbolProvider: true,
        foldingRangeProvider: true,
        documentFormattingProvider: true,
        codeActionProvider: { codeActionKinds: ['quickfix'] },
      },
    };
  });
  connection.onInitialized(() => {
    loaded = load().catch((error: unknown) =>
      connection.console.error(`The documents of the folder could not be read: ${String(error)}`),
    );
    if (canWatch)
      void connection.client.register(DidChangeWatchedFilesNotification.type, {
        watchers: [{ globPattern: '**/*.{yaml,yml,json}' }],
      });
  });
  connection.onShutdown(async () => {
    looksLater.end();
    checksLater.end();
    await checks.close();
  });

  open.onDidChangeContent(({ document }) => changed(desk.put(document, true)));
  open.onDidClose(({ document: { uri } }) => {
    desk.remove(uri);
    void connection.sendDiagnostics({ uri, diagnostics: [] });
    reload(uri);
  });
  connection.onDidChangeWatchedFiles(({ changes }) => {
    for (const { uri, type } of changes)
      if (type !== FileChangeType.Deleted) reload(uri);
      else if (desk.get(uri)?.isOpen === false) desk.remove(uri);
  });
  function reload(uri: string): void {
    const document = uri.startsWith('file:') ? documentAt(fileURLToPath(uri)) : undefined;
    if (document !== undefined) changed(desk.put(document, false));
  }

  /** An answer about a document, or about a place in it; nothing for one that is not on the desk. */
  const about =
    <P extends { textDocument: { uri: string } }, R>(answer: (sheet: Sheet, params: P) => R) =>
    (params: P): R | null => {
      const sheet = desk.get(params.textDocument.uri);
      return sheet === undefined ? null : answer(sheet, params);
    };
  type AtPlace = { textDocument: { uri: string }; position: Position };

  connection.onCompletion(about((sheet, { position }: AtPlace) => answers.completion(desk, sheet, position)));
  connection.onHover(
    about((sheet, { position }: AtPlace) => answers.hover(desk, sheet, position, findingsOf)),
  );
  connection.onDefinition(about((sheet, { position }: AtPlace) => answers.definition(desk, sheet, position)));
  connection.onDocumentSymbol(about(answers.symbols));
  connection.onFoldingRanges(about(answers.folds));
  connection.onDocumentFormatting(about(answers.formatting));
  connection.onPrepareRename(
    about((sheet, { position }: AtPlace) => answers.renamable(desk, sheet, position)),
  );
  // These two are about all documents, so all must have been read.
  connection.onReferences(async (params) => {
    await loaded;
    return about((sheet, { position, context }: typeof params) =>
      answers.references(desk, sheet, position, context.includeDeclaration),
    )(params);
  });
  connection.onRenameRequest(async (params) => {
    await loaded;
    return about((sheet, { position, newName }: typeof params) =>
      answers.rename(desk, sheet, position, newName),
    )(params);
  });
  connection.onCodeAction(
    about((sheet, { range }) => {
      const now = found.get(sheet.uri);
      // What was found in an earlier text may stand elsewhere by now.
      if (now?.text !== sheet.document.text) return [];
      return answers.actions(sheet, range, now.findings, (f) => now.repairs.get(f.fingerprint) ?? []);
    }),
  );

  open.listen(connection);
  connection.listen();
}
