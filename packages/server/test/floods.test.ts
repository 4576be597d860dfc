import { describe, it } from 'vitest';
import { smallCampaign } from './small-campaign.js';

describe('what may go wrong, done on purpose', () => {
  it('floods: nothing is lost, nothing crashes', () => smallCampaign('floods'), 600_000);
});
