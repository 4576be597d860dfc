import type { Finding } from '../findings/index.js';
import { type Rename, withNewNames } from './renames.js';

/** What came and what went between two lists of findings, and how many stayed. What is about a renamed thing stays. */
export function findingsApart(
  before: readonly Finding[],
  now: readonly Finding[],
  renames: readonly Rename[] = [],
): { come: Finding[]; gone: Finding[]; kept: number } {
  const faceBefore = ({ fingerprint }: Finding): string => withNewNames(fingerprint, renames);
  const [old, current] = [new Set(before.map(faceBefore)), new Set(now.map((f) => f.fingerprint))];
  const come = now.filter((f) => !old.has(f.fingerprint));
  return { come, gone: before.filter((f) => !current.has(faceBefore(f))), kept: now.length - come.length };
}
