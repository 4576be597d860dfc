import { describe, it } from 'vitest';
import { smallCampaign } from './small-campaign.js';

/** The campaigns of `npm run campaign`, each a little; the floods are by themselves, for they need both processors. */
describe('what may go wrong, done on purpose', () => {
  it.each(['fuzz', 'kill', 'power', 'damage', 'owners'])(
    '%s: nothing is lost, nothing crashes',
    smallCampaign,
    600_000,
  );
});
