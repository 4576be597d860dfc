import courier from '../../../../../examples/courier.yaml' with { loader: 'text' };
import slide from '../../../../../examples/culvert-slide.yaml' with { loader: 'text' };
import yard from '../../../../../examples/mill-yard.yaml' with { loader: 'text' };
import crossing from '../../../../../examples/yard-crossing.yaml' with { loader: 'text' };
import { readMoveset } from '@glenmark/core/machine';
import { readTape, runTape } from '@glenmark/core/run';
import { finished } from '@glenmark/core/steps';
import { readCourse } from '@glenmark/core/world';
import { wall } from './wall';

const RATES = [30, 60, 144];
const tapes = [slide, crossing].map((tape) => ({ tape, course: yard }));

describe('the wall of expectations', () => {
  it('says of each at each rate what a run says, at a tick of the own rate', () => {
    const told = finished(wall({ moveset: courier, tapes, rates: RATES }));
    expect(told).toHaveLength(2);
    const course = readCourse(yard).course!;
    tapes.forEach((texts, i) => {
      const { tape } = readTape(texts.tape);
      RATES.forEach((rate, place) => {
        const { machine } = readMoveset(courier, { rate });
        const { session } = runTape(machine!, course, tape!);
        session!.expectations.forEach(({ text, passed, tick }, e) => {
          const { text: own, at } = told[i]!.expectations[e]!;
          expect(own).toBe(text);
          expect(at[place]!.passed).toBe(passed);
          expect(Math.abs(at[place]!.tick - (tick * 60) / rate)).toBeLessThanOrEqual(0.5);
        });
      });
    });
  });

  it('says why a tape cannot be played, and nothing of one that does not load', () => {
    const without = courier.replace(/\bgust\b/g, 'blast');
    const told = finished(
      wall({ moveset: without, tapes: [...tapes, { tape: 'kind: tape', course: yard }], rates: [60] }),
    );
    expect(told[1]!.wrong[0]).toContain('gust');
    expect(told[2]).toEqual({ expectations: [], wrong: [undefined] });
  });

  it('is empty for a moveset that does not load', () => {
    expect(finished(wall({ moveset: 'kind: moveset', tapes, rates: RATES }))).toEqual([]);
  });
});
