import { CATALOGUE } from '../catalogue/catalogue.js';
import type { Finding } from '../sentences/finding.js';

const LEVELS = { proved: 'error', witnessed: 'error', suspected: 'note' } as const;

/** How loud a finding is to other programs: what only looks risky warns, what is untidy is noted. */
export function levelOf({ code, certainty }: Finding): 'error' | 'warning' | 'note' {
  const { question } = CATALOGUE[code];
  if (question === 'tidy') return 'note';
  return certainty !== 'suspected' && question === 'risky' ? 'warning' : LEVELS[certainty];
}
