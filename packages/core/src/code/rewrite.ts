import {
  type Machine,
  place as at,
  type Place,
  type Program,
  type Statement,
  type Term,
  terms,
} from '../machine/index.js';
import { present } from '../present.js';
import type { Members } from './members.js';
import { mapTerm, seeStatements } from './walk.js';

/** Turns statements over places of our own into those over what a game keeps and senses. */
export function rewriter(
  machine: Machine,
  { layout, asked }: Program,
  { beyond, fields }: Members,
  cast: readonly number[],
): (list: readonly Statement[]) => Statement[] {
  const { all, any, field, set, when } = terms;
  const leafSince = new Map(
    machine.states
      .filter(({ members }) => members.length === 0)
      .map(({ index, lane }) => [layout.entered + index, present(beyond.laneSince[lane])]),
  );
  const byLane = new Map(
    machine.lanes.map(({ index }) => [layout.leaves + index, present(beyond.laneSince[index])]),
  );
  const isSlope = new Set(asked.filter(({ ref }) => ref.fact === 'slope').map(({ slot }) => slot));

  const place = <T extends Term | Place>(t: T): T | Place => {
    // The state that a lane is in is the one that it entered last: one time for each lane is enough.
    if (t.kind === 'field') return field(leafSince.get(t.place) ?? t.place);
    if (t.kind === 'element' && t.index.kind === 'field') return field(present(byLane.get(t.index.place)));
    if (t.kind === 'fact' && t.asked && !isSlope.has(t.slot)) return field(present(beyond.asked.get(t.slot)));
    return t;
  };
  const term = (whole: Term): Term =>
    mapTerm(whole, (t) => {
      // A list of zones says by itself that there are some.
      if (t.kind === 'compare' && t.left.kind === 'field' && t.left.place === at.IN_ZONES) return all();
      // What is kept is a state, never the group around it.
      if (t.kind === 'compare' && isState(t.left) && t.right.kind === 'number' && isGroup(t.right.value)) {
        if (t.op === '=') return any();
        if (t.op === '!=') return all();
      }
      if (t.kind === 'sense' && cast.length === 0) {
        if (t.sense === 'hangs') return any();
        if (t.sense === 'tetherLength') return terms.number(0);
      }
      if (t.kind === 'sense' && t.sense === 'middle') return field(beyond.middle);
      return place(t);
    });
  const isState = (t: Term): boolean => t.kind === 'field' && fields.get(t.place)?.type.kind === 'anyLeaf';
  const isGroup = (state: number): boolean => (machine.states[state]?.members.length ?? 0) > 0;
  const statements = (list: readonly Statement[]): Statement[] => list.flatMap(statement);
  const statement = (s: Statement): Statement[] => {
    switch (s.kind) {
      case 'let':
        return [{ ...s, value: term(s.value) }];
      case 'set':
        return [{ ...s, to: place(s.to) as Place, value: term(s.value) }];
      case 'block':
        return [{ ...s, body: statements(s.body) }];
      case 'if':
        return [{ ...s, when: term(s.when), then: statements(s.then), otherwise: statements(s.otherwise) }];
      case 'switch':
        return [
          {
            ...s,
            on: term(s.on),
            cases: s.cases.map(({ of, body }) => ({ of, body: statements(body) })),
            otherwise: statements(s.otherwise),
          },
        ];
      case 'repeat':
        return [{ ...s, while: term(s.while), body: statements(s.body) }];
      case 'tell':
        return s.what.kind === 'gravity' ? [set(field(beyond.gravityScale), term(s.what.scale))] : [s];
      case 'world':
        return act(s);
      case 'call':
        return [s];
    }
  };
  const act = (s: Extract<Statement, { kind: 'world' }>): Statement[] => {
    switch (s.act) {
      case 'pickUp':
        return machine.abilities.flatMap((_, i) =>
          when(terms.isNot(field(present(beyond.gives[i])), 0), [
            set(field(layout.unlocked + i), terms.number(1)),
          ]),
        );
      case 'launch':
        return when(terms.isNot(field(beyond.launched), 0), [
          set(field(at.VX), field(beyond.launchX)),
          set(field(at.VY), field(beyond.launchY)),
        ]);
      case 'drop':
        return [set(field(beyond.drops), all())];
      case 'cast': {
        const slot = machine.facts.refs.findIndex(
          (ref) => ref?.fact === 'catches' && ref.of === present(machine.tethers[s.index]).name,
        );
        return when(terms.isNot(field(present(beyond.asked.get(slot))), 0), [s]);
      }
      case 'release':
        return cast.includes(s.index) ? [s] : [];
      default:
        return [s];
    }
  };
  return statements;
}

/** Where the feet last were on the ground and how long that is ago, which the end of a tick counts for us. */
export function keptAloft(machine: Machine): Statement[] {
  const { all, any, field, is, isNot, number, plus, set } = terms;
  const air = field(at.AIR_TICKS);
  const isOnGround =
    machine.plane === 'above' ? all() : any(is(field(at.TICK), 0), isNot(field(at.GROUND), 0));
  return terms.when(
    isOnGround,
    [set(field(at.GROUND_Y), field(at.Y)), set(air, number(0))],
    [set(air, plus(air, number(1)))],
  );
}

/** The tethers that some statement casts. */
export function castIn({ steps, procedures }: Program): number[] {
  const cast = new Set<number>();
  for (const { statements } of [...steps, ...procedures])
    seeStatements(statements, (s) => {
      if (s.kind === 'world' && s.act === 'cast') cast.add(s.index);
    });
  return [...cast].sort((a, b) => a - b);
}
