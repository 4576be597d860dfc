import { describe, expect, it } from 'vitest';
import { proveAll, repairsOf, tidyFindings } from '@glenmark/core/findings';
import { machineOf, movesetText, sample } from './helpers.js';

/** What is untidy in a moveset of two states, with a guard between them and whatever else is declared. */
const untidy = (when: string, extra = '', crossings = ''): string[] =>
  tidyFindings(
    machineOf(
      movesetText({
        states: '      S: {}\n      T: {}',
        crossings: `      - { from: S, to: T, when: "${when}" }\n      - { from: T, to: S, when: pressed(hop) }\n${crossings}`,
        initial: 'S',
        extra,
      }),
    ),
  )
    .map((f) => f.fingerprint)
    .filter((f) => !/^TD1\/(stance|control)/.test(f));

describe('tidy up', () => {
  it('nothing of the sound samples but what is accepted', () => {
    for (const file of ['signal-kite.yaml', 'courier.yaml', 'lock-keeper.yaml', 'marram.yaml']) {
      const machine = machineOf(sample(file));
      const accepted = machine.accepted.map((a) => a.fingerprint);
      const found = tidyFindings(machine).map((f) => f.fingerprint);
      expect(
        found.filter((f) => !accepted.includes(f)),
        file,
      ).toEqual([]);
    }
  });

  it.each([
    ['TD1/variable/a', 'grounded', 'variables: { a: { flag: false } }'],
    ['TD1/timer/t', 'grounded', 'timers: { t: { length: 1 s } }'],
    ['TD1/dial/d', 'grounded', 'dials: { d: 2 m/s }'],
    ['TD2/variable/a', 'a', 'variables: { a: { flag: false } }'],
    ['TD2/cooldown/c', 'ready(c)', 'cooldowns: { c: { recharge: 1 s } }'],
    ['TD7/dial/d', 'vx > d', 'dials: { d: { value: 5 m/s, min: 1 m/s, max: 4 m/s } }'],
    ['TD5/lane/S>T/grounded', 'grounded and vx > 1 m/s and grounded', ''],
    ['TD5/lane/S>T/vx > 1 m/s', 'vx > 2 m/s and vx > 1 m/s', ''],
    ['TD6/lane/S>T/grounded and airborne', 'vx > 1 m/s or grounded and airborne', ''],
  ])('%s', (fingerprint, when, extra) => {
    const found = untidy(when, extra).map((f) => f.replace(/^(TD[56])\/\w+\//, '$1/lane/'));
    expect(found).toContain(fingerprint);
  });

  it.each([
    ['drive.gain', 'drive: { to: 3 m/s, instant: true, gain: 4 m/s2 }'],
    ['drive.carry', 'drive: { to: 3 m/s, instant: true, carry: { above: 1 m/s, fade: 2 m/s2 } }'],
    ['tether.climb', 'tether: { reel: 3 m/s, climb: 2 m/s }'],
    ['drive', 'drive: { to: 3 m/s, gain: 4 m/s2 }, hold: { vx: 2 m/s }'],
  ])('TD8 %s', (field, motion) => {
    const found = (text: string): string[] =>
      tidyFindings(
        machineOf(movesetText({ states: `      S: { motion: { ${text} } }`, initial: 'S' })),
      ).flatMap((f) => (f.code === 'TD8' ? [f.fingerprint] : []));
    expect(found(motion)).toContain(`TD8/S/${field}`);
    expect(found('drive: { to: 3 m/s, gain: 4 m/s2 }')).toEqual([]);
  });

  it('TD8 of what stands beside the motion', () => {
    const machine = machineOf(
      movesetText({
        states: '      S: { ifBlocked: wait }\n      T: { stance: low, ifBlocked: wait }',
        crossings:
          '      - { from: S, to: T, reenter: true }\n      - { from: T, to: S }\n      - { from: "*", to: S, reenter: true }',
        initial: 'S',
        extra:
          'cooldowns: { c: { recharge: 1 s, order: together }, d: { charges: 2, recharge: 1 s, order: together } }',
      }),
    );
    expect(machine.idle.map(({ path }) => path.join('.')).sort()).toEqual([
      'cooldowns.c.order',
      'lanes.0.crossings.0.reenter',
      'lanes.0.states.S.ifBlocked',
    ]);
  });

  it('says nothing of a derived dial’s source, of a read that others only imply, of a part that counts', () => {
    expect(untidy('vx > d', 'dials: { base: 1 m/s, d: base * 2 }')).toEqual([]);
    expect(untidy('pressed(hop) or grounded and vx > 1 m/s')).toEqual([]);
    expect(untidy('vx > 1 m/s and vx < 2 m/s')).toEqual([]);
  });

  it('a duplicate under another spelling is one, and its repair takes it away', () => {
    const text = movesetText({
      states: '      S: {}\n      T: {}',
      crossings:
        '      - { from: S, to: T, when: "not grounded" }\n      - { from: T, to: S }\n      - { from: S, to: T, when: airborne }',
      initial: 'S',
    });
    const machine = machineOf(text);
    const twin = tidyFindings(machine).find((f) => f.code === 'TD4')!;
    expect(twin.path).toEqual(['lanes', 0, 'crossings', 2]);
    expect(repairsOf(machine, twin)[0]!.changes).toEqual([{ path: twin.path }]);
  });

  it('a control without a key is untidy only when no graver fault says so', () => {
    const machine = machineOf(
      movesetText({
        states: '      S: {}\n      T: {}',
        crossings: '      - { from: S, to: T, when: pressed(hop) }\n      - { from: T, to: S }',
        initial: 'S',
      }).replace(/button: \[\w+\]/, 'button: []'),
    );
    expect(tidyFindings(machine).map((f) => f.fingerprint)).toContain('TD3/control/hop');
    const told = proveAll(machine).findings.map((f) => f.code);
    expect(told).toContain('IN2');
    expect(told).not.toContain('TD3');
  });
});
