import { readMoveset } from '@glenmark/core/machine';
import { readTape, runTape } from '@glenmark/core/run';
import { readCourse } from '@glenmark/core/world';
import courier from '../../../../../../../examples/courier.yaml' with { loader: 'text' };
import slide from '../../../../../../../examples/culvert-slide.yaml' with { loader: 'text' };
import yard from '../../../../../../../examples/mill-yard.yaml' with { loader: 'text' };
import { type Curve, curveOf, curvesOf, shortNumber } from './curve-data';

describe('curves of a run', () => {
  const machine = readMoveset(courier).machine!;
  const session = runTape(machine, readCourse(yard).course!, readTape(slide).tape!).session!;
  const { records } = session.trace;
  const of = (text: string): Curve => {
    const curve = curveOf(session, text);
    if (typeof curve === 'string') throw new Error(curve);
    return curve;
  };

  it('say where things are after each tick', () => {
    const [vx, x] = [of('vx'), of('x')];
    expect([vx.unit, x.unit]).toEqual(['m/s', 'm']);
    records.slice(0, -1).forEach(({ body }, tick) => {
      expect(vx.values[tick]).toBe(body.vx);
      expect(x.values[tick]).toBe(body.x);
    });
    expect(vx.values).toHaveLength(records.length);
  });

  it('can be anything that the notation says, with its unit, over dials too', () => {
    const share = of('vx / trotSpeed');
    expect(share.unit).toBe('');
    const speed = machine.dials.find((d) => d.name === 'trotSpeed')!.value;
    share.values.slice(0, -1).forEach((v, tick) => expect(v).toBeCloseTo(records[tick]!.body.vx / speed, 9));
    expect(new Set(of('grounded and vx > 1 m/s').values)).toEqual(new Set([0, 1]));
  });

  it('tell what is wrong with a text, and leave out what another moveset does not know', () => {
    expect(curveOf(session, 'vx / trotSped')).toContain("did you mean 'trotSpeed'?");
    expect(curveOf(session, 'vx +')).toEqual(expect.any(String));
    expect(curvesOf(session, ['vx', 'nobody', 'vy']).map((c) => c.text)).toEqual(['vx', 'vy']);
  });

  it('are read in passing with three digits', () => {
    expect([0, -0, 5.4444, 12.345, 1234, -0.05].map(shortNumber)).toEqual([
      '0',
      '0',
      '5.44',
      '12.3',
      '1230',
      '-0.05',
    ]);
  });
});
