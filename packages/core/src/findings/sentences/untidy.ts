import { present } from '../../present.js';
import type { EstablishedOf } from './finding.js';
import { crossingWords, quoted, type Words } from './words.js';

/** What is untidy. */
export function wordsOfUntidy(
  f: EstablishedOf<'TD1' | 'TD2' | 'TD3' | 'TD4' | 'TD5' | 'TD6' | 'TD7' | 'TD8'>,
): Words {
  const { crossing } = f;
  switch (f.code) {
    case 'TD1':
      return { sentence: present(UNREAD[f.evidence.kind])(f.evidence.name), reason: [] };
    case 'TD2':
      return { sentence: present(UNWRITTEN[f.evidence.kind])(f.evidence.name), reason: [] };
    case 'TD3':
      return { sentence: `The control ${f.evidence.name} has no key and no pad button.`, reason: [] };
    case 'TD4': {
      const [a, b] = f.evidence.guards;
      return {
        sentence: `${crossingWords(crossing)} is defined twice.`,
        reason: [`${quoted(a)} and ${quoted(b)} hold at the same times.`],
      };
    }
    case 'TD5': {
      const { term, by } = f.evidence;
      return term === by
        ? { sentence: `The guard asks for ${quoted(term)} twice.`, reason: [] }
        : {
            sentence: `The guard need not ask for ${quoted(term)}.`,
            reason: [`Whenever ${quoted(by)} holds, ${quoted(term)} holds too.`],
          };
    }
    case 'TD6':
      return {
        sentence: `${quoted(f.evidence.term)} never decides anything: it cannot come to hold there.`,
        reason: [],
      };
    case 'TD7': {
      const side = f.evidence.side === 'below' ? 'below the least' : 'above the most';
      return { sentence: `The dial ${f.evidence.name} is ${side} that its own range allows.`, reason: [] };
    }
    case 'TD8': {
      const { field, where, because } = f.evidence;
      return { sentence: `${quoted(field)} has no effect in ${where}: ${because}.`, reason: [] };
    }
  }
}

const UNREAD: Record<string, (name: string) => string> = {
  dial: (name) => `Nothing is worked out from the dial ${name}.`,
  variable: (name) => `Nothing reads the variable ${name}.`,
  timer: (name) => `Nothing reads the timer ${name}.`,
  cooldown: (name) => `Nothing asks whether ${name} is ready.`,
  probe: (name) => `Nothing asks for the probe ${name}.`,
  stance: (name) => `No state takes the stance ${name}.`,
  ability: (name) => `No state or crossing needs the ability ${name}.`,
  control: (name) => `Nothing listens to the control ${name}.`,
  event: (name) => `No lane hears the event ${name}: it is raised, and no guard asks for it.`,
};

const UNWRITTEN: Record<string, (name: string) => string> = {
  variable: (name) => `Nothing ever writes ${name}.`,
  timer: (name) => `Nothing ever starts the timer ${name}.`,
  cooldown: (name) => `Nothing ever spends the cooldown ${name}.`,
};
