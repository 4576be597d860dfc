// Movesets and courses of a given size, for measuring.

/** A moveset of a given size: states in rings, guards that differ, everything declared and used. */
export function largeMoveset(lanes, states, crossings) {
  const lines = [
    'glenmark: 1',
    'kind: moveset',
    'name: Large',
    'gravity: 30 m/s2',
    'dials:',
    ...Array.from({ length: 20 }, (_, i) => `  d${i}: { value: ${i + 1} m/s, min: 0 m/s, max: 50 m/s }`),
  ];
  lines.push(
    'controls:',
    '  move: { axis: { negative: [KeyA], positive: [KeyD] } }',
    '  hop: { button: [Space] }',
    'body:',
    '  stances:',
    '    tall: { shape: capsule, width: 0.7 m, height: 1.7 m }',
  );
  lines.push(
    'variables:',
    ...Array.from({ length: 8 }, (_, i) => `  f${i}: { flag: false }`),
    'timers:',
    '  t: { length: 0.5 s }',
    'lanes:',
  );
  for (let l = 0; l < lanes; l++) {
    const own = states / lanes;
    lines.push(`  - name: lane${l}`, `    initial: L${l}S0`, '    states:');
    for (let s = 0; s < own; s++)
      lines.push(
        `      L${l}S${s}: { stance: tall, enter: [start t, "f${s % 8} := true"], motion: { drive: { to: axis(move) * d${s % 20}, gain: 60 m/s2 } } }`,
      );
    lines.push('    crossings:');
    for (let c = 0; c < crossings / lanes; c++) {
      lines.push(
        `      - { from: L${l}S${c % own}, to: L${l}S${(c * 7 + Math.floor(c / own) * 11 + 1) % own}, when: pressed(hop) within 0.1 s and vx > d${c % 20} and (f${c % 8} or done(t)) and not grounded, rank: ${c % 3}, do: ["vy := d${c % 20}"] }`,
      );
    }
  }
  return `${lines.join('\n')}\n`;
}

/** A course of so many solids: a long floor in pieces, with crates to hop over and beams overhead. */
export function longCourse(solids) {
  const lines = ['glenmark: 1', 'kind: course', 'name: Long', 'solids:'];
  for (let i = 0; i < solids; i++) {
    const x = Math.floor(i / 3) * 6;
    if (i % 3 === 0) lines.push(`  - { box: [[${x - 6} m, -2 m], [${x} m, 0 m]] }`);
    else if (i % 3 === 1) lines.push(`  - { box: [[${x - 2} m, 0 m], [${x - 1.4} m, 0.5 m]] }`);
    else lines.push(`  - { points: [[${x - 5} m, 4 m], [${x - 3} m, 4 m], [${x - 4} m, 5 m]] }`);
  }
  lines.push('spawns: { start: { at: [1 m, 0 m] } }');
  return `${lines.join('\n')}\n`;
}
