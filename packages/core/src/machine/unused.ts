import { type Context, warn } from './context.js';
import type { Effect, Lane, State } from './definition.js';

/** Warns of what is declared and never used: it loads, but somebody meant something by it. */
export function warnUnused(context: Context, lanes: readonly Lane[], states: readonly State[]): void {
  const effects: Effect[] = [
    ...states.flatMap((s) => [...s.enter, ...s.exit, ...s.each]),
    ...lanes.flatMap((l) => l.crossings.flatMap((c) => c.do)),
  ];
  const { file, names } = context;
  names.cooldown.forEach((name, i) => {
    const spent = effects.some((e) => e.kind === 'spend' && e.what === 'cooldown' && e.index === i);
    if (!spent) warn(context, ['cooldowns', name], `nothing spends the cooldown '${name}'`);
  });
  names.timer.forEach((name, i) => {
    if (!effects.some((e) => e.kind === 'start' && e.timer === i))
      warn(context, ['timers', name], `nothing starts the timer '${name}'`);
  });
  for (const name of names.ability) {
    const needed =
      states.some((s) => s.ability >= 0 && names.ability[s.ability] === name) ||
      lanes.some((l) => l.crossings.some((c) => c.ability >= 0 && names.ability[c.ability] === name));
    const read = context.texts.some((t) => t.text.includes(`unlocked(${name})`));
    if (!needed && !read)
      warn(context, ['abilities', name], `no state or crossing needs the ability '${name}'`);
  }
  for (const name of Object.keys(file.controls ?? {})) {
    const word = new RegExp(`\\b${name}\\b`);
    if (!context.texts.some((t) => word.test(t.text)))
      warn(context, ['controls', name], `nothing listens to the control '${name}'`);
  }
}
