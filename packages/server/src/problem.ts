import { STATUS_CODES } from 'node:http';
import type { Diagnostic } from '@glenmark/core/model';
import type { Problem } from '@glenmark/contract';

/** An answer that is an error: thrown anywhere below a request, written as problem details at the top. */
export class ProblemError extends Error {
  readonly problem: Problem;

  constructor(status: number, detail: string, more: Partial<Problem> = {}) {
    super(detail);
    this.problem = { type: 'about:blank', title: STATUS_CODES[status] ?? 'Error', status, detail, ...more };
  }
}

/** The answer for a document with errors, of which `diagnostics` are the first. */
export const unreadable = (diagnostics: readonly Diagnostic[], errors: number): ProblemError => {
  const first = diagnostics[0]!;
  const count = errors === 1 ? 'one error' : `${errors} errors`;
  return new ProblemError(
    422,
    `Nothing was saved: the document has ${count}. Line ${first.line}, column ${first.column}: ${first.message}.`,
    {
      type: 'urn:glenmark:problem:unreadable-document',
      title: 'The document cannot be read',
      diagnostics: diagnostics.map((d) => ({ ...d, path: [...d.path] })),
    },
  );
};
