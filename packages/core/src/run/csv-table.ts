import Papa from 'papaparse';
import type { Diagnostic } from '../model/index.js';

/** A CSV text (RFC 4180) as a header and rows of as many fields, with a way to tell what is wrong at a field. */
export interface CsvTable {
  header: string[];
  rows: string[][];
  diagnostics: Diagnostic[];
  /** Reports a fault at a line and a field of it, both from 1. */
  fault: (line: number, column: number, message: string) => void;
}

/** Reads a CSV text; what is wrong with its form is among the diagnostics. */
export function readTable(text: string): CsvTable {
  const diagnostics: Diagnostic[] = [];
  const fault = (line: number, column: number, message: string): void => {
    diagnostics.push({ severity: 'error', message, path: [], line, column });
  };
  const { data, errors } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: 'greedy' });
  const broken = errors.find((e) => e.type === 'Quotes');
  if (broken !== undefined)
    fault((broken.row ?? 0) + 1, 1, 'found a quote that is not closed or not at an edge');
  const [header = [], ...rows] = data;
  if (rows.length === 0) fault(2, 1, 'found no line after the header, expected one for each tick');
  rows.forEach((row, i) => {
    if (row.length === header.length) return;
    const column = Math.min(row.length, header.length) + 1;
    fault(i + 2, column, `found ${row.length} fields, expected ${header.length}`);
  });
  return { header: header.map((cell) => cell.trim()), rows, diagnostics, fault };
}
