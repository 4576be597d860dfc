import courier from '../../../../../../examples/courier.yaml' with { loader: 'text' };
import { readMoveset } from '@glenmark/core/machine';
import { edit } from '@glenmark/core/model';
import fc from 'fast-check';
import { dialRows, dialsBehind } from './dials';

const { machine, file } = readMoveset(courier);
const rows = dialRows(machine!, file!);
const behind = (...texts: string[]): string[] => dialsBehind(rows, texts).map((d) => d.name);

describe('the dials behind a text', () => {
  it('are those that it names, and those that these come from, but none that only come from others', () => {
    expect(behind('axis(move) * trotSpeed')).toEqual(['trotSpeed']);
    expect(behind('vy := secondHop')).toEqual(['hopHeight']);
    expect(behind('if running(slideTime) then slideSpeed else crawlSpeed', 'gustSpeed')).toEqual([
      'slideSpeed',
      'crawlSpeed',
      'gustSpeed',
    ]);
    expect(behind('slideSpeedy + 3 m/s', '')).toEqual([]);
  });

  it('are the only ones that change what it comes to', () => {
    // Every dial is turned a little: what a derived one is changes just when the turned one is behind it.
    const derived = machine!.dials.filter((d) => d.derived);
    const valueOf = (text: string, name: string) =>
      readMoveset(text).machine!.dials.find((d) => d.name === name)!.value;
    fc.assert(
      fc.property(
        fc.constantFrom(...rows.filter((d) => !d.derived)),
        fc.constantFrom(...derived.map((d) => d.name)),
        (turned, name) => {
          const after = edit(courier, [
            { path: turned.valuePath, value: `${turned.value * 1.05} ${turned.unit}`.trim() },
          ]);
          const changes = valueOf(after, name) !== valueOf(courier, name);
          expect(behind(name).includes(turned.name)).toBe(changes);
        },
      ),
      { numRuns: 30 },
    );
  });
});
