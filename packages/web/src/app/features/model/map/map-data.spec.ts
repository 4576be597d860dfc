import courier from '../../../../../../../examples/courier.yaml' with { loader: 'text' };
import draft from '../../../../../../../examples/courier-draft.yaml' with { loader: 'text' };
import marram from '../../../../../../../examples/marram.yaml' with { loader: 'text' };
import { readMoveset } from '@glenmark/core/machine';
import { BANDS, laneGraph } from './map-data';

describe.each([
  ['courier', courier],
  ['draft', draft],
  ['marram', marram],
])('every lane of %s as a graph', (_, text) => {
  const machine = readMoveset(text).machine!;
  const { lanes, states } = machine;

  it('has a node for every state and group, in the band of what moves it, and one that it starts in', () => {
    for (const lane of lanes) {
      const { nodes } = laneGraph(machine, lane.index);
      const own = nodes.filter((n) => n.id !== 'any');
      expect(own.map((n) => n.name)).toEqual(lane.states.map((s) => states[s]!.name));
      for (const n of own) expect(BANDS[n.band]!.kinds).toContain(n.kind);
      expect(own.filter((n) => n.start)).toHaveLength(1);
    }
  });

  it('has a line for every crossing from every state that it names, between nodes that are there', () => {
    for (const lane of lanes) {
      const { nodes, edges } = laneGraph(machine, lane.index);
      const ids = nodes.map((n) => n.id);
      for (const edge of edges) expect(ids).toEqual(expect.arrayContaining([edge.from, edge.to]));
      const asked = lane.crossings.flatMap((c) =>
        (c.from.length === 0 ? ['any'] : c.from.map((s) => `s${s}`)).map(
          (from) => `${from} s${c.to} ${c.index}`,
        ),
      );
      expect(edges.map((e) => `${e.from} ${e.to} ${e.index}`)).toEqual(asked);
      expect(new Set(edges.map((e) => e.id)).size).toBe(edges.length);
      expect(ids.includes('any')).toBe(lane.crossings.some((c) => c.from.length === 0));
    }
  });
});
