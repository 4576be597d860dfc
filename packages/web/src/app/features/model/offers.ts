import { type Machine, scopeOf } from '@glenmark/core/machine';
import { complete, TRUTH } from '@glenmark/core/notation';

/** More are not offered; another letter leaves fewer. */
const MAX_OFFERS = 8;

/** A word that may stand where the caret is, and the whole guard with it put in. */
export interface Offer {
  text: string;
  word: string;
  help: string;
}

export const offersFor = (guard: string, caret: number, machine: Machine): Offer[] => {
  const { start, end, items } = complete(guard, caret, scopeOf(machine), TRUTH);
  return items
    .slice(0, MAX_OFFERS)
    .map(({ text, help }) => ({ text: guard.slice(0, start) + text + guard.slice(end), word: text, help }))
    .filter((offer) => offer.text !== guard);
};
