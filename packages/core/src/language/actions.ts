import { CATALOGUE, type Finding, type Repair } from '../findings/index.js';
import type { MovesetFile } from '../model/index.js';

/**
 * What accepts a finding, as a repair of the moveset: an entry whose reason is still to be written, which the moveset does not
 * load without.
 */
export function acceptance(file: MovesetFile, { code, fingerprint }: Finding): Repair {
  const entry = { finding: fingerprint, because: '' };
  const title = `Accept ${code}, ${CATALOGUE[code].name}, and say why`;
  return file.accept === undefined
    ? { title, changes: [{ path: ['accept'], value: [entry] }] }
    : { title, changes: [{ path: ['accept', file.accept.length], value: entry, insert: true }] };
}
