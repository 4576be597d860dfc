import fc from 'fast-check';
import { capOfCode, capsOf, isPress } from './key-press';
import { PLACES, SHORTCUTS, type Shortcut, shortcutsOf, type Place } from './shortcut-list';

/** The event of a press, as a browser makes it. */
const eventOf = (press: string, more: Partial<KeyboardEventInit> = {}): KeyboardEvent => {
  const parts = press === '+' ? ['+'] : press.split('+');
  const key = parts[parts.length - 1]!;
  return new KeyboardEvent('keydown', {
    key: key === 'Space' ? ' ' : key === 'letter' ? 'g' : key,
    ctrlKey: parts.includes('Ctrl'),
    shiftKey: parts.includes('Shift'),
    altKey: parts.includes('Alt'),
    ...more,
  });
};
const all = Object.values(SHORTCUTS) as Shortcut[];
const presses = fc.constantFrom(...all.flatMap(({ keys }) => keys));

describe('a press of keys', () => {
  it('is itself, and not the same with another key held', () => {
    fc.assert(
      fc.property(presses, (press) => {
        expect(isPress(press, eventOf(press))).toBe(true);
        if (!press.includes('Ctrl')) expect(isPress(press, eventOf(press, { ctrlKey: true }))).toBe(false);
        if (!press.includes('Alt')) expect(isPress(press, eventOf(press, { altKey: true }))).toBe(false);
      }),
    );
  });

  it('with the command key is that with Ctrl', () => {
    expect(isPress('Ctrl+K', eventOf('K', { metaKey: true }))).toBe(true);
  });

  it('of a sign is one with Shift held or not, for that is the keyboard’s business', () => {
    for (const shiftKey of [true, false]) expect(isPress('?', eventOf('?', { shiftKey }))).toBe(true);
    expect(isPress('M', eventOf('M', { shiftKey: true }))).toBe(false);
  });

  it('that may have Shift is one with it and without', () => {
    for (const shiftKey of [true, false])
      expect(isPress('Shift?+ArrowUp', eventOf('ArrowUp', { shiftKey }))).toBe(true);
  });

  it('that begins a guard is a letter, a digit or a bracket, and no question mark', () => {
    for (const key of ['g', 'Z', 'é', '3', '_', '(']) expect(isPress('letter', eventOf(key))).toBe(true);
    for (const key of ['?', ',', ' ', 'Enter', 'F1']) expect(isPress('letter', eventOf(key))).toBe(false);
  });
});

describe('the list of shortcuts', () => {
  it('has no press for two things in one place, nor for one that works everywhere', () => {
    for (const where of Object.keys(PLACES) as Place[]) {
      const own = shortcutsOf(where).flatMap(([id, { keys }]) => keys.map((press) => ({ id, press })));
      const everywhere = where === 'everywhere' ? [] : shortcutsOf('everywhere');
      for (const { id, press } of own) {
        const others = [...shortcutsOf(where), ...everywhere].filter(
          ([other, { keys }]) => other !== id && keys.some((p) => isPress(p, eventOf(press))),
        );
        expect(others.map(([other]) => `${press}: ${id} and ${other}`)).toEqual([]);
      }
    }
  });

  it('shows caps for every press, none of them empty', () => {
    fc.assert(
      fc.property(presses, (press) => {
        const caps = capsOf(press);
        expect(caps.length).toBeGreaterThan(0);
        for (const cap of caps) expect(cap).toMatch(/\S/);
        expect(caps.join()).not.toMatch(/Arrow|\?\+|Page/);
      }),
    );
  });

  it.each([
    ['KeyD', 'D'],
    ['Digit4', '4'],
    ['ArrowLeft', '←'],
    ['ShiftLeft', 'Shift left'],
    ['Space', 'Space'],
  ])('calls %s by what stands on the key: %s', (code, cap) => {
    expect(capOfCode(code)).toBe(cap);
  });
});
