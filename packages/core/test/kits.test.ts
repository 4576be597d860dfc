import { describe, expect, it } from 'vitest';
import { proveAll } from '@glenmark/core/findings';
import { planKit, takeKit } from '@glenmark/core/kits';
import { readMoveset } from '@glenmark/core/machine';
import { edit } from '@glenmark/core/model';
import { machineOf, movesetText, sample } from './helpers.js';

const KITS = JSON.parse(sample('kits/kits.json')) as { id: string; yours: string[] }[];
const textOf = (id: string): string => sample(`kits/${id}.yaml`);
const TARGETS: Record<string, string> = {
  empty: movesetText({ states: '      Walk: {}', initial: 'Walk' }),
  courier: sample('courier.yaml'),
  marram: sample('marram.yaml'),
};

function taken(target: string, kitText: string, yours: string[]): { text: string; before: string } {
  const { machine, file } = readMoveset(target);
  const plan = planKit(machine!, 0, machineOf(kitText), yours);
  return { before: target, text: edit(target, takeKit(file!, 0, kitText, plan)) };
}

describe.each(Object.keys(TARGETS))('taken into %s', (name) => {
  it.each(KITS)(
    '$id loads, adds each of its states once and changes nothing that was there',
    ({ id, yours }) => {
      // What is seen from above drives in two directions: a moveset seen from the side says so and refuses it.
      if (id === 'dash-above') return;
      const { text, before } = taken(TARGETS[name]!, textOf(id), yours);
      const { machine: after, diagnostics } = readMoveset(text);
      expect(diagnostics.filter((d) => d.severity === 'error').map((d) => d.message)).toEqual([]);
      const old = readMoveset(before).machine!;
      const names = after!.states.map((s) => s.name);
      expect(new Set(names).size).toBe(names.length);
      for (const state of old.states) {
        const now = after!.states.find((s) => s.name === state.name)!;
        expect(now.motion).toBeDefined();
        expect(now.enter.map((e) => e.text)).toEqual(state.enter.map((e) => e.text));
      }
      const crossings = (m: typeof old): string[] =>
        m.lanes[0]!.crossings.map((c) => `${c.from.map((s) => m.states[s]!.name)} ${m.states[c.to]!.name}`);
      expect(crossings(after!).slice(0, crossings(old).length)).toEqual(crossings(old));
    },
  );
});

describe('a kit', () => {
  it.each(KITS)('$id is sound by itself', ({ id }) => {
    expect(proveAll(machineOf(textOf(id))).findings).toEqual([]);
  });

  it('from above goes into a moveset seen from above', () => {
    const above = TARGETS['empty']!.replace('kind: moveset', 'kind: moveset\nplane: above');
    expect(machineOf(taken(above, textOf('dash-above'), ['Walk']).text).states).toHaveLength(2);
  });

  it('gives new names to what is taken already, everywhere it is used', () => {
    const { text } = taken(TARGETS['courier']!, textOf('slope-slide'), ['Trot']);
    const { machine } = readMoveset(text);
    const slide = machine!.states.find((s) => s.name === 'Slide2')!;
    expect(slide.enter.map((e) => e.text)).toEqual(['start slideTime2']);
    expect(machine!.timers.map((t) => t.name)).toContain('slideTime2');
  });

  it('can be taken twice', () => {
    const once = taken(TARGETS['empty']!, textOf('wall-slide'), ['Trot', 'Aloft']).text;
    const twice = taken(once, textOf('wall-slide'), ['Trot', 'Aloft']).text;
    const names = machineOf(twice).states.map((s) => s.name);
    expect(names).toEqual(expect.arrayContaining(['Aloft', 'Cling', 'Kick', 'Cling2', 'Kick2']));
    expect(names).not.toContain('Aloft2');
  });
});
