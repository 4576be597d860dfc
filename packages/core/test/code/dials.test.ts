import { describe, expect, it } from 'vitest';
import { LANGUAGES, outlineOf, readmeOf } from '@glenmark/core/code';
import { compileTurned, readMoveset } from '@glenmark/core/machine';
import { settingChanges, turnablesOf } from '@glenmark/core/tune';
import { sample } from '../helpers.js';

const MOVESETS = ['courier.yaml', 'marram.yaml', 'signal-kite.yaml', 'mechanics/glide-flap.yaml'];

describe.each(MOVESETS)('the dials of %s in code', (file) => {
  const compiled = readMoveset(sample(file));
  const turnables = turnablesOf(compiled);
  const outline = outlineOf(compiled);
  const printed = (turned: typeof compiled): string[][] => {
    const other = outlineOf(turned);
    return LANGUAGES.map((language) => language.print(other).split('\n'));
  };
  const own = printed(compiled);
  /** The lines that differ from those of another printing, in each language. */
  const apart = (lines: readonly (readonly string[])[]): string[][] =>
    lines.map((text, l) => text.filter((line, i) => line !== own[l]![i]));

  it('are constants, or told to be worked into other numbers, or nowhere', () => {
    const { list, workedIn } = outline.constants;
    const named = [...list.map(({ name }) => name), ...workedIn];
    expect(new Set(named).size).toBe(named.length);
    for (const name of named) expect(turnables.map((t) => t.name)).toContain(name);
    for (const language of LANGUAGES)
      for (const name of workedIn) expect(readmeOf(outline, language)).toContain(name);
  });

  it('turned in the code are what they are when turned in the moveset: their constant is all that differs', () => {
    for (const { name, value } of outline.constants.list) {
      const { machine, file: after } = compileTurned(
        compiled,
        settingChanges(turnables, { [name]: value * 1.5 }),
      );
      for (const lines of apart(printed({ ...compiled, machine, file: after }))) {
        expect(lines).toHaveLength(1);
        expect(lines[0]!.toLowerCase()).toContain(name.toLowerCase());
      }
    }
  });

  it('that are neither change nothing', () => {
    const { list, workedIn } = outline.constants;
    const idle = turnables.filter(
      ({ name }) => !list.some((d) => d.name === name) && !workedIn.includes(name),
    );
    for (const { name, value } of idle) {
      const { machine, file: after } = compileTurned(
        compiled,
        settingChanges(turnables, { [name]: value * 1.5 }),
      );
      expect(apart(printed({ ...compiled, machine, file: after })).flat()).toEqual([]);
    }
  });
});
