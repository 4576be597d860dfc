// The ways in which practitioners break a moveset, as named edits on the parsed document. Each gives every mutant that
// it can make: what was done in words, and the document.

const clone = (doc) => structuredClone(doc);

/** All crossings with the lane they are in. */
const crossingsOf = (doc) =>
  doc.lanes.flatMap((lane, l) => (lane.crossings ?? []).map((c, i) => ({ c, l, i })));

/** All states and groups, with their way through the document. */
function statesOf(doc) {
  const found = [];
  const look = (states, way) => {
    for (const [name, state] of Object.entries(states ?? {})) {
      found.push({ name, state: state ?? {}, way: [...way, name] });
      look(state?.states, [...way, name, 'states']);
    }
  };
  doc.lanes.forEach((lane, l) => look(lane.states, ['lanes', l, 'states']));
  return found;
}

const at = (doc, way) => way.reduce((thing, key) => thing[key], doc);

/** Mutants that change one crossing. */
const perCrossing = (change) => (doc) =>
  crossingsOf(doc).flatMap(({ c, l, i }) => {
    const mutant = clone(doc);
    const own = mutant.lanes[l].crossings[i];
    const what = change(own, mutant, mutant.lanes[l]);
    return what === undefined ? [] : [{ what: `${[c.from].flat()} → ${c.to}: ${what}`, doc: mutant }];
  });

/** Mutants that change the guard of one crossing, in each of several ways. */
const perGuard = (changes) => (doc) =>
  crossingsOf(doc).flatMap(({ c, l, i }) => {
    if (typeof c.when !== 'string') return [];
    return changes(c.when, doc).map((when) => {
      const mutant = clone(doc);
      mutant.lanes[l].crossings[i].when = when;
      return { what: `${[c.from].flat()} → ${c.to}: \`${c.when}\` became \`${when}\``, doc: mutant };
    });
  });

/** Every list of effects: its way through the document, and what is in it. */
function effectsOf(doc) {
  const lists = [];
  for (const { state, way } of statesOf(doc))
    for (const when of ['enter', 'exit', 'each'])
      if (state[when] !== undefined) lists.push({ way: [...way, when], list: [state[when]].flat() });
  crossingsOf(doc).forEach(({ c, l, i }) => {
    if (c.do !== undefined) lists.push({ way: ['lanes', l, 'crossings', i, 'do'], list: [c.do].flat() });
  });
  return lists;
}

const perEffect = (isMeant) => (doc) =>
  effectsOf(doc).flatMap(({ way, list }) =>
    list.flatMap((effect, k) => {
      if (!isMeant(effect)) return [];
      const mutant = clone(doc);
      at(mutant, way.slice(0, -1))[way[way.length - 1]] = list.filter((_, j) => j !== k);
      return [{ what: `${way.slice(-2).join(' ')}: \`${effect}\` is gone`, doc: mutant }];
    }),
  );

const terms = (when) => (/ or |^if /.test(when) ? [] : when.split(' and '));
const replaceTerm = (list, k, term) => list.map((t, j) => (j === k ? term : t)).join(' and ');

/** Mutants in which a crossing also asks for something. */
const perAsk = (term) => (doc) =>
  crossingsOf(doc).map(({ c, l, i }) => {
    const mutant = clone(doc);
    mutant.lanes[l].crossings[i].when = c.when === undefined ? term : `(${c.when}) and ${term}`;
    return { what: `${[c.from].flat()} → ${c.to} asks for \`${term}\``, doc: mutant };
  });

/** Mutants in which a crossing uses up a variable that nothing gives back. */
const perUse = (variable, term, effect) => (doc) =>
  crossingsOf(doc).map(({ c, l, i }) => {
    const mutant = clone(doc);
    mutant.variables = { ...mutant.variables, ...variable };
    const own = mutant.lanes[l].crossings[i];
    own.when = c.when === undefined ? term : `(${c.when}) and ${term}`;
    own.do = [...[c.do ?? []].flat(), effect];
    return { what: `${[c.from].flat()} → ${c.to}: \`${effect}\``, doc: mutant };
  });

export const OPERATORS = {
  'drop a crossing': (doc) =>
    crossingsOf(doc).map(({ c, l, i }) => {
      const mutant = clone(doc);
      mutant.lanes[l].crossings.splice(i, 1);
      return { what: `${[c.from].flat()} → ${c.to} is gone`, doc: mutant };
    }),
  'drop a write': perEffect((e) => /:=|\+=|-=/.test(e)),
  'drop a timer start': perEffect((e) => e.startsWith('start ')),
  'drop a give-back': perEffect((e) => e.startsWith('refill ') || e.startsWith('unlock ')),
  'negate a term': perGuard((when) =>
    terms(when).map((t, k, list) => replaceTerm(list, k, t.startsWith('not ') ? t.slice(4) : `not (${t})`)),
  ),
  'drop a not': perGuard((when) =>
    [...when.matchAll(/\bnot /g)].map((m) => when.slice(0, m.index) + when.slice(m.index + 4)),
  ),
  'swap a control': perGuard((when, doc) => {
    const buttons = Object.entries(doc.controls).filter(([, c]) => c.button !== undefined);
    return [...when.matchAll(/(pressed|held|released)\((\w+)\)/g)].flatMap((m) => {
      const other = buttons.find(([name]) => name !== m[2]);
      return other === undefined ? [] : [when.replace(m[0], `${m[1]}(${other[0]})`)];
    });
  }),
  'unbind a control': (doc) =>
    Object.entries(doc.controls).flatMap(([name, control]) => {
      if (control.button === undefined) return [];
      const mutant = clone(doc);
      mutant.controls[name] = { button: [] };
      return [{ what: `${name} has no key`, doc: mutant }];
    }),
  'remove a refill': (doc) =>
    ['variables', 'cooldowns'].flatMap((section) =>
      Object.entries(doc[section] ?? {}).flatMap(([name, thing]) =>
        ['refill', 'reset'].flatMap((field) => {
          if (thing[field] === undefined) return [];
          const mutant = clone(doc);
          Reflect.deleteProperty(mutant[section][name], field);
          return [{ what: `${name} has no ${field}`, doc: mutant }];
        }),
      ),
    ),
  'shorten a probe': (doc) =>
    Object.keys(doc.body.probes ?? {}).map((name) => {
      const mutant = clone(doc);
      mutant.body.probes[name].reach = '0.04 m';
      return { what: `${name} reaches 4 cm`, doc: mutant };
    }),
  'make a rank equal': perCrossing((c, mutant, lane) => {
    if (c.rank === undefined) return undefined;
    const other = lane.crossings.find((o) => o !== c && (o.rank ?? 0) !== c.rank && sharesSource(o, c));
    if (other === undefined) return undefined;
    const old = c.rank;
    c.rank = other.rank ?? 0;
    return `rank ${old} became ${c.rank}`;
  }),
  'swap entry and exit': (doc) =>
    statesOf(doc).flatMap(({ name, state, way }) => {
      if (state.enter === undefined && state.exit === undefined) return [];
      const mutant = clone(doc);
      const own = at(mutant, way);
      [own.enter, own.exit] = [state.exit, state.enter];
      for (const when of ['enter', 'exit']) if (own[when] === undefined) Reflect.deleteProperty(own, when);
      return [{ what: `${name} does on exit what it did on entry`, doc: mutant }];
    }),
  'anchor a stance in the middle': (doc) =>
    Object.entries(doc.body.stances).flatMap(([name, stance]) => {
      if (stance.parts !== undefined || stance.anchor === 'middle') return [];
      const mutant = clone(doc);
      mutant.body.stances[name].anchor = 'middle';
      return [{ what: `${name} is anchored in the middle`, doc: mutant }];
    }),
  'ask for too much': perGuard((when) =>
    [...when.matchAll(/(\w+) > 0(?! m)/g)].map((m) => when.replace(m[0], `${m[1]} > 9`)),
  ),
  'ask for two things at once': perGuard((when) =>
    terms(when).flatMap((t, k, list) =>
      t === 'grounded' || t === 'falling' ? [replaceTerm(list, k, 'grounded and falling')] : [],
    ),
  ),
  'lock for ever': (doc) =>
    crossingsOf(doc).flatMap(({ c, l, i }) => {
      if (c.ability !== undefined) return [];
      const mutant = clone(doc);
      mutant.variables = { ...mutant.variables, brave: { flag: false } };
      mutant.lanes[l].crossings[i].when = c.when === undefined ? 'brave' : `(${c.when}) and brave`;
      return [{ what: `${[c.from].flat()} → ${c.to} asks for a flag that nothing sets`, doc: mutant }];
    }),
  'spend without giving back': (doc) =>
    crossingsOf(doc).map(({ c, l, i }) => {
      const mutant = clone(doc);
      mutant.variables = { ...mutant.variables, breaths: { count: 1, max: 1 } };
      const own = mutant.lanes[l].crossings[i];
      own.when = c.when === undefined ? 'breaths > 0' : `(${c.when}) and breaths > 0`;
      own.do = [...[c.do ?? []].flat(), 'spend breaths'];
      return { what: `${[c.from].flat()} → ${c.to} spends what nothing gives back`, doc: mutant };
    }),
  'contradict in time': perAsk('grounded for 0.2 s and airborne within 0.1 s'),
  'ask for a zone that is nowhere': perAsk('inside(nowhere)'),
  'ask for longer than a timer lets it last': (doc) =>
    crossingsOf(doc).flatMap(({ c, l, i }) => {
      const own = statesOf(doc).find(({ name }) => name === c.from);
      const timer = [own?.state.enter ?? []]
        .flat()
        .find((e) => e.startsWith('start '))
        ?.slice(6);
      const ends = (o) => o !== c && o.from === c.from && o.when === `done(${timer})`;
      if (timer === undefined || !doc.lanes[l].crossings.some(ends)) return [];
      const mutant = clone(doc);
      mutant.lanes[l].crossings[i].when = `${c.when === undefined ? '' : `(${c.when}) and `}elapsed >= 60 s`;
      return [{ what: `${c.from} → ${c.to} asks for a minute`, doc: mutant }];
    }),
  'count only upward': perUse({ tries: { number: 0 } }, 'tries < 1', 'tries += 1'),
  'latch a flag': perUse({ latched: { flag: false } }, 'not latched', 'latched := true'),
  'stop a timer': (doc) =>
    Object.keys(doc.timers ?? {}).map((name) => {
      const mutant = clone(doc);
      mutant.timers[name].runs = 'grounded and airborne';
      return { what: `${name} never runs`, doc: mutant };
    }),
  'need an ability that nothing unlocks': (doc) =>
    crossingsOf(doc).flatMap(({ c, l, i }) => {
      if (c.ability !== undefined) return [];
      const mutant = clone(doc);
      mutant.abilities = { ...mutant.abilities, forgotten: { locked: true } };
      mutant.lanes[l].crossings[i].ability = 'forgotten';
      return [{ what: `${[c.from].flat()} → ${c.to} needs an ability that nothing unlocks`, doc: mutant }];
    }),
  're-enter from everywhere': (doc) =>
    statesOf(doc).flatMap(({ name, state, way }) => {
      const button = Object.entries(doc.controls).find(([, c]) => c.button?.length > 0)?.[0];
      if (state.states !== undefined || state.passing === true || button === undefined) return [];
      const mutant = clone(doc);
      mutant.lanes[way[1]].crossings.push({ from: '*', to: name, when: `held(${button})`, reenter: true });
      return [{ what: `${name} is entered again while ${button} is held`, doc: mutant }];
    }),
};

/** Whether two crossings leave a state in common, as far as their texts say. */
const sharesSource = (a, b) => [a.from].flat().some((s) => [b.from].flat().includes(s));
