// Sound movesets to break: abilities put together in every combination that a few bits say.

const ABILITIES = [
  {
    name: 'double hop',
    variables: { hopsLeft: { count: 1, max: 1, refill: 'grounded' } },
    crossings: [
      {
        from: 'Fall',
        to: 'Rise',
        when: 'pressed(hop) and hopsLeft > 0',
        do: ['vy := 8 m/s', 'spend hopsLeft'],
      },
    ],
  },
  {
    name: 'slide',
    timers: { slideTime: { length: '0.4 s' } },
    states: {
      Slide: {
        stance: 'low',
        enter: ['start slideTime'],
        motion: { drive: { to: 'facing * 7 m/s', gain: '60 m/s2' } },
      },
    },
    crossings: [
      { from: 'Trot', to: 'Slide', when: 'pressed(tuck) and grounded and speed > 2 m/s' },
      { from: 'Slide', to: 'Trot', when: 'done(slideTime)' },
      { from: 'Slide', to: 'Fall', when: 'not grounded for 0.1 s', rank: 1 },
    ],
  },
  {
    name: 'gust',
    cooldowns: { gusts: { charges: 1, recharge: '0.8 s', refill: 'grounded' } },
    states: {
      Gust: {
        stance: 'tall',
        enter: ['spend gusts'],
        motion: { hold: { vx: 'facing * 11 m/s', vy: '0 m/s' } },
      },
    },
    crossings: [
      { from: ['Trot', 'Fall'], to: 'Gust', when: 'pressed(gust) and ready(gusts)', rank: 2 },
      { from: 'Gust', to: 'Fall', when: 'elapsed >= 0.2 s' },
    ],
  },
  {
    name: 'cling',
    probes: { brow: { from: ['0 m', '1.4 m'], toward: 'ahead', reach: '0.6 m' } },
    states: {
      Cling: {
        stance: 'tall',
        motion: {
          drive: { to: 'axis(move) * 1 m/s', gain: '30 m/s2' },
          gravity: { falling: 0.4, terminal: '2 m/s' },
        },
      },
    },
    crossings: [
      { from: 'Fall', to: 'Cling', when: 'falling and pushing and probe(brow)', rank: 1 },
      { from: 'Cling', to: 'Trot', when: 'grounded', rank: 2 },
      { from: 'Cling', to: 'Fall', when: 'not pushing' },
    ],
  },
  {
    name: 'hands',
    variables: { lit: { flag: false } },
    lanes: [
      {
        name: 'hands',
        initial: 'Free',
        states: { Free: {}, Lamp: { enter: ['lit := true'], exit: ['lit := false'] }, Busy: {} },
        crossings: [
          { from: ['Free', 'Lamp'], to: 'Busy', when: 'in(Fall)', rank: 1 },
          { from: 'Busy', to: 'Free', when: 'not in(Fall)' },
          { from: 'Free', to: 'Lamp', when: 'pressed(tuck) and not lit' },
          { from: 'Lamp', to: 'Free', when: 'released(tuck)' },
        ],
      },
    ],
  },
];

/** The sound moveset whose abilities are the bits of a number. */
export function soundMoveset(bits) {
  const chosen = ABILITIES.filter((_, i) => (bits >> i) & 1);
  const all = (field) => Object.assign({}, ...chosen.map((a) => structuredClone(a[field] ?? {})));
  return {
    glenmark: 1,
    kind: 'moveset',
    name: `Sound ${bits} (${chosen.map((a) => a.name).join(', ') || 'hop only'})`,
    gravity: '30 m/s2',
    controls: {
      move: { axis: { negative: ['KeyA'], positive: ['KeyD'] } },
      hop: { button: ['Space'] },
      ...(chosen.some((a) => ['slide', 'hands'].includes(a.name)) ? { tuck: { button: ['KeyS'] } } : {}),
      ...(chosen.some((a) => a.name === 'gust') ? { gust: { button: ['ShiftLeft'] } } : {}),
    },
    body: {
      stances: {
        tall: { shape: 'capsule', width: '0.7 m', height: '1.7 m' },
        ...(chosen.some((a) => a.name === 'slide')
          ? { low: { shape: 'capsule', width: '0.7 m', height: '0.8 m' } }
          : {}),
      },
      probes: all('probes'),
    },
    variables: all('variables'),
    timers: all('timers'),
    cooldowns: all('cooldowns'),
    lanes: [
      {
        name: 'legs',
        initial: 'Trot',
        states: {
          Trot: {
            home: true,
            stance: 'tall',
            each: ['face move'],
            motion: { drive: { to: 'axis(move) * 6 m/s', gain: '60 m/s2', brake: '80 m/s2' } },
          },
          Rise: {
            stance: 'tall',
            each: ['face move'],
            motion: { drive: { to: 'axis(move) * 6 m/s', gain: '24 m/s2' } },
          },
          Fall: {
            stance: 'tall',
            each: ['face move'],
            motion: { drive: { to: 'axis(move) * 6 m/s', gain: '24 m/s2' } },
          },
          ...all('states'),
        },
        crossings: [
          { from: 'Trot', to: 'Rise', when: 'pressed(hop) and grounded', do: ['vy := 10 m/s'], rank: 1 },
          { from: 'Trot', to: 'Fall', when: 'not grounded for 0.1 s' },
          { from: 'Rise', to: 'Fall', when: 'vy <= 0 m/s' },
          { from: 'Fall', to: 'Trot', when: 'grounded', rank: 3 },
          ...chosen.flatMap((a) => structuredClone(a.crossings ?? [])),
        ],
      },
      ...chosen.flatMap((a) => structuredClone(a.lanes ?? [])),
    ],
  };
}
