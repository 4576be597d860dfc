import { describe, expect, it } from 'vitest';
import { findAll } from '@glenmark/core/findings';
import { machineOf, movesetText } from '../helpers.js';
import { edited, faultsOf, itFinds } from './fault.js';

describe('lanes and their events', () => {
  itFinds('two lanes that wait for each other are one fault', {
    text: movesetText({
      states: '      A: {}\n      B: {}\n      C: {}',
      crossings: `      - { from: A, to: B, when: in(Open) }
      - { from: B, to: A, when: pressed(hop) }
      - { from: A, to: C, when: pressed(hop) }
      - { from: C, to: A, when: pressed(hop) }`,
      initial: 'A',
      lanes: `  - name: gate
    initial: Shut
    states: { Shut: {}, Open: {}, Ajar: {} }
    crossings:
      - { from: Shut, to: Open, when: in(B) }
      - { from: Open, to: Shut, when: pressed(dash) }
      - { from: Shut, to: Ajar, when: pressed(dash) }
      - { from: Ajar, to: Shut, when: pressed(dash) }`,
    }),
    edits: { 'when: in(B)': 'when: in(A) and held(dash)' },
    code: 'IN2',
    says: ['B and Open wait for each other', '`in(Open)`', '`in(B)`'],
  });

  itFinds('a home that a flag closes for good, by the name of both', {
    text: movesetText({
      states: '      A: { home: true }\n      B: {}\n      C: {}',
      crossings: `      - { from: A, to: B, when: pressed(hop) }
      - { from: B, to: A, when: pressed(hop) and not hurt }
      - { from: B, to: C, when: pressed(dash), do: ["hurt := true"], rank: 1 }
      - { from: C, to: B, when: pressed(dash) }`,
      extra: 'variables: { hurt: { flag: false } }',
      initial: 'A',
    }),
    edits: { 'flag: false': 'flag: false, reset: in(B) and grounded' },
    code: 'OUT4',
    says: ['Once hurt is set there is no way back to A', 'A is declared a home'],
  });

  itFinds('a state that is only left to be entered again', {
    text: movesetText({
      states: '      A: {}\n      B: { enter: [start t] }',
      crossings: `      - { from: A, to: B, when: pressed(hop) }
      - { from: B, to: B, reenter: true }
      - { from: B, to: A, when: done(t) }`,
      extra: 'timers: { t: { length: 0.3 s } }',
      initial: 'A',
    }),
    edits: { 'to: B, reenter: true': 'to: B, reenter: true, when: pressed(dash)' },
    code: 'OUT2',
    state: 'B',
    says: ['always loses to the crossing to B', 'only entered again and again'],
  });

  itFinds('a timer that never runs', {
    text: movesetText({
      states: '      A: {}\n      B: { enter: [start t] }',
      crossings: `      - { from: A, to: B, when: pressed(hop) }
      - { from: B, to: A, when: done(t) }`,
      extra: 'timers: { t: { length: 0.3 s, runs: grounded and rising } }',
      initial: 'A',
    }),
    edits: { 'grounded and rising': 'grounded' },
    code: 'OUT2',
    says: ['t never runs: what its `runs` asks for can never hold'],
  });

  it('an event that nobody hears', () => {
    const text = movesetText({
      states: '      A: { exit: [raise boom] }\n      B: {}',
      crossings: `      - { from: A, to: B, when: pressed(hop) }
      - { from: B, to: A, when: pressed(dash) }`,
      initial: 'A',
    });
    const heard = (t: string): string[] =>
      findAll(machineOf(t), []).flatMap((f) => (f.sentence.includes('boom') ? [f.sentence] : []));
    expect(heard(text)).toEqual(['No lane hears the event boom: it is raised, and no guard asks for it.']);
    expect(heard(edited(text, { 'when: pressed(dash)': 'when: event(boom) or pressed(dash)' }))).toEqual([]);
  });

  it('a crossing from everywhere that re-enters its own state while a button is held', () => {
    const text = movesetText({
      states: '      A: {}\n      B: {}',
      crossings: `      - { from: "*", to: B, when: held(hop), reenter: true }
      - { from: B, to: A, when: pressed(dash) and not held(hop) }`,
      initial: 'A',
    });
    const told = (t: string): string[] =>
      findAll(machineOf(t), []).flatMap((f) => (f.code === 'AG4' ? [f.sentence] : []));
    expect(told(text)).toEqual([
      'B may be entered again every tick while hop is held: the crossing from everywhere leads back to where the lane is.',
    ]);
    expect(told(edited(text, { 'held(hop), reenter': 'pressed(hop), reenter' }))).toEqual([]);
    expect(told(edited(text, { ', reenter: true': '' }))).toEqual([]);
  });

  it('another lane that has ended, or is stuck, makes no second finding', () => {
    const beside = (states: string): string =>
      movesetText({
        states,
        crossings: '      - { from: A, to: B, when: pressed(hop) }',
        initial: 'A',
        lanes: `  - name: hands
    initial: Idle
    states: { Idle: {}, Busy: {} }
    crossings:
      - { from: Idle, to: Busy, when: in(A) and pressed(dash) }
      - { from: Busy, to: Idle, when: pressed(dash) }`,
      });
    const all = (text: string): string[] =>
      findAll(machineOf(text), []).flatMap((f) => (f.code.startsWith('TD') ? [] : [`${f.code} ${f.state}`]));
    expect(all(beside('      A: {}\n      B: {}'))).toEqual(['OUT1 B']);
    expect(all(beside('      A: {}\n      B: { final: true }'))).toEqual([]);
    expect(faultsOf(beside('      A: {}\n      B: { final: true }'))).toEqual([]);
  });

  it('what waits for another lane without being waited for stays a finding of its own', () => {
    const text = movesetText({
      states: '      A: {}\n      B: {}\n      C: {}',
      crossings: `      - { from: A, to: B, when: in(Open) }
      - { from: B, to: A, when: pressed(hop) }
      - { from: A, to: C, when: pressed(hop) }
      - { from: C, to: A, when: pressed(hop) }`,
      initial: 'A',
      lanes: `  - name: gate
    initial: Shut
    states: { Shut: {}, Open: {}, Ajar: {} }
    crossings:
      - { from: Shut, to: Open, when: key }
      - { from: Open, to: Shut, when: pressed(dash), do: ["key := true"] }
      - { from: Shut, to: Ajar, when: pressed(dash) }
      - { from: Ajar, to: Shut, when: pressed(dash) }`,
      extra: 'variables: { key: { flag: false } }',
    });
    expect(faultsOf(text).map((f) => `${f.code} ${f.state}`)).toEqual(['IN2 B', 'IN2 Open']);
    expect(faultsOf(text)[0]!.sentence).not.toContain('wait for each other');
  });
});
