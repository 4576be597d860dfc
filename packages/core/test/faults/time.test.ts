import { describe } from 'vitest';
import { movesetText } from '../helpers.js';
import { itFinds } from './fault.js';

const three = '      A: {}\n      B: { enter: [start t] }\n      C: {}';
const T = 'timers: { t: { length: 0.3 s } }';

describe('time that cannot be', () => {
  itFinds('an exit that waits for longer than a timer lets the state last', {
    text: movesetText({
      states: three,
      crossings: `      - { from: A, to: B, when: pressed(hop) }
      - { from: B, to: A, when: done(t) }
      - { from: B, to: C, when: elapsed >= 0.5 s and pressed(dash) }
      - { from: C, to: A, when: pressed(dash) }`,
      extra: T,
      initial: 'A',
    }),
    edits: { 'elapsed >= 0.5 s': 'elapsed >= 0.2 s' },
    code: 'IN2',
    state: 'C',
    says: ['asks for `elapsed >= 0.5 s`', 'elapsed is never more than 0.3 s'],
  });

  itFinds('a timer with more time than the state can last', {
    text: movesetText({
      states: three,
      crossings: `      - { from: A, to: B, when: pressed(hop) }
      - { from: B, to: A, when: elapsed >= 0.2 s }
      - { from: B, to: C, when: done(t) and pressed(dash) }
      - { from: C, to: A, when: pressed(dash) }`,
      extra: T,
      initial: 'A',
    }),
    edits: { 'elapsed >= 0.2 s': 'elapsed >= 0.4 s' },
    code: 'IN2',
    state: 'C',
    says: ['asks for `done(t)`', 'elapsed is never more than 0.2 s'],
  });

  itFinds('a window that closes before it opens', {
    text: movesetText({
      states: '      A: {}\n      B: { enter: [start t, start long] }\n      C: {}',
      crossings: `      - { from: A, to: B, when: pressed(hop) }
      - { from: B, to: C, when: done(long) and running(t) }
      - { from: B, to: A, when: pressed(dash) }
      - { from: C, to: A, when: pressed(dash) }`,
      extra: 'timers: { t: { length: 0.3 s }, long: { length: 0.4 s } }',
      initial: 'A',
    }),
    edits: { 'long: { length: 0.4 s }': 'long: { length: 0.2 s }' },
    code: 'IN2',
    state: 'C',
    says: ['asks for `done(long)` and `running(t)`'],
  });

  itFinds('a window of elapsed that a timer has closed', {
    text: movesetText({
      states: three,
      crossings: `      - { from: A, to: B, when: pressed(hop) }
      - { from: B, to: C, when: elapsed >= 0.4 s and running(t) and pressed(dash) }
      - { from: B, to: A, when: pressed(hop) }
      - { from: C, to: A, when: pressed(dash) }`,
      extra: T,
      initial: 'A',
    }),
    edits: { 'elapsed >= 0.4 s': 'elapsed >= 0.1 s' },
    code: 'IN2',
    state: 'C',
    says: ['`elapsed >= 0.4 s`', '`running(t)`'],
  });

  itFinds('a time in the air that a state never sees, since it is entered from the ground and ends soon', {
    text: movesetText({
      states: '      A: {}\n      B: {}\n      C: {}',
      crossings: `      - { from: A, to: B, when: grounded and pressed(hop) }
      - { from: B, to: A, when: elapsed >= 0.3 s }
      - { from: B, to: C, when: airtime >= 0.5 s }
      - { from: C, to: A, when: pressed(dash) }`,
      initial: 'A',
    }),
    edits: { 'airtime >= 0.5 s': 'airtime >= 0.25 s' },
    code: 'IN2',
    state: 'C',
    says: ['asks for `airtime >= 0.5 s`', 'airtime is never more than 0.3 s'],
  });

  itFinds('a cooldown that is awaited in a state too short for it', {
    text: movesetText({
      states: '      A: {}\n      B: { enter: [spend c] }\n      C: {}',
      crossings: `      - { from: A, to: B, when: pressed(hop) and ready(c) }
      - { from: B, to: A, when: elapsed >= 0.3 s }
      - { from: B, to: C, when: ready(c) and pressed(dash) }
      - { from: C, to: A, when: pressed(dash) }`,
      extra: 'cooldowns: { c: { charges: 1, recharge: 0.5 s } }',
      initial: 'A',
    }),
    edits: { 'recharge: 0.5 s': 'recharge: 0.2 s' },
    code: 'IN2',
    state: 'C',
    says: ['asks for `ready(c)`', 'elapsed is never more than 0.3 s'],
  });

  itFinds('a cooldown that recharges only once the state is left, awaited in that state', {
    text: movesetText({
      states: '      A: {}\n      B: { enter: [spend c] }',
      crossings: `      - { from: A, to: B, when: pressed(hop) and ready(c) }
      - { from: B, to: A, when: ready(c) }`,
      extra: 'cooldowns: { c: { charges: 1, recharge: 0.2 s, from: exit } }',
      initial: 'A',
    }),
    edits: { ', from: exit': '' },
    code: 'OUT2',
    state: 'B',
    says: ['asks for `ready(c)`', 'c has always no charge left', 'recharges only once'],
  });

  itFinds('the same, awaited by another lane while the state that spent it is final', {
    text: movesetText({
      states: '      A: {}\n      B: {}',
      crossings: `      - { from: A, to: B, when: not ready(c) }
      - { from: B, to: A, when: ready(c) }`,
      extra: 'cooldowns: { c: { charges: 1, recharge: 0.2 s, from: exit } }',
      initial: 'A',
      lanes: `  - name: hands
    initial: Free
    states:
      Free: {}
      Bound: { final: true, enter: [spend c] }
    crossings:
      - { from: Free, to: Bound, when: pressed(hop) }`,
    }),
    edits: { ', from: exit': '' },
    code: 'OUT2',
    state: 'B',
    says: ['asks for `ready(c)`', 'recharges only once'],
  });

  itFinds('what held for a while and did not within a shorter one', {
    text: movesetText({
      states: '      A: {}\n      B: {}\n      C: {}',
      crossings: `      - { from: A, to: C, when: pressed(hop) }
      - { from: C, to: A, when: pressed(hop) }
      - { from: A, to: B, when: grounded for 0.2 s and airborne within 0.1 s }
      - { from: B, to: A, when: pressed(dash) }`,
      initial: 'A',
    }),
    edits: { 'within 0.1 s': 'within 0.3 s' },
    code: 'IN2',
    state: 'B',
    says: ['`grounded for 0.2 s`', '`airborne within 0.1 s`'],
  });

  itFinds('two things that must have held for a while and exclude each other', {
    text: movesetText({
      states: '      A: {}\n      B: {}\n      C: {}',
      crossings: `      - { from: A, to: C, when: pressed(hop) }
      - { from: C, to: A, when: pressed(hop) }
      - { from: A, to: B, when: vx > 1 m/s for 0.2 s and vx < 0.5 m/s within 0.1 s }
      - { from: B, to: A, when: pressed(dash) }`,
      initial: 'A',
    }),
    edits: { 'vx > 1 m/s for 0.2 s': 'vx > 1 m/s for 0.05 s' },
    code: 'IN2',
    state: 'B',
    says: ['exclude each other'],
  });

  itFinds('a time on the ground that the time in the air denies', {
    text: movesetText({
      states: '      A: {}\n      B: {}\n      C: {}',
      crossings: `      - { from: A, to: C, when: pressed(hop) }
      - { from: C, to: A, when: pressed(hop) }
      - { from: A, to: B, when: grounded within 0.1 s and airtime >= 0.2 s }
      - { from: B, to: A, when: pressed(dash) }`,
      initial: 'A',
    }),
    edits: { 'airtime >= 0.2 s': 'airtime >= 0.05 s' },
    code: 'IN2',
    state: 'B',
    says: ['`grounded within 0.1 s`', '`airtime >= 0.2 s`'],
  });
});
