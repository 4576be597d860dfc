import { wordsOfConflict } from './conflicts.js';
import type { Established } from './finding.js';
import { wordsOfRisk } from './risks.js';
import { wordsOfUntidy } from './untidy.js';
import { wordsOfWaysIn } from './ways-in.js';
import { wordsOfWaysOut } from './ways-out.js';
import type { Words } from './words.js';

/** The words of a fault. What was seen in a run names the tape and the tick first. */
export function wordsOf(f: Established): Words {
  const words = plainWords(f);
  if (f.witness === null || f.code === 'IN4' || f.code === 'IN6' || f.code === 'RK5') return words;
  const [first, ...rest] = words.reason;
  return {
    ...words,
    reason: [`Tape “${f.witness.tape}”, tick ${f.witness.tick}: ${first ?? words.sentence}`, ...rest],
  };
}

function plainWords(f: Established): Words {
  switch (f.code) {
    case 'IN1':
    case 'IN2':
    case 'IN3':
    case 'IN4':
    case 'IN5':
    case 'IN6':
      return wordsOfWaysIn(f);
    case 'OUT1':
    case 'OUT2':
    case 'OUT3':
    case 'OUT4':
    case 'OUT5':
    case 'OUT6':
      return wordsOfWaysOut(f);
    case 'AG1':
    case 'AG2':
    case 'AG3':
    case 'AG4':
    case 'AG5':
    case 'AG6':
      return wordsOfConflict(f);
    case 'RK1':
    case 'RK2':
    case 'RK3':
    case 'RK4':
    case 'RK5':
    case 'RK6':
    case 'RK7':
    case 'RK8':
    case 'RK9':
    case 'RK10':
    case 'RK11':
      return wordsOfRisk(f);
    case 'TD1':
    case 'TD2':
    case 'TD3':
    case 'TD4':
    case 'TD5':
    case 'TD6':
    case 'TD7':
    case 'TD8':
      return wordsOfUntidy(f);
  }
}
