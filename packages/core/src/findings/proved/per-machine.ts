import type { Machine } from '../../machine/index.js';

/** Works something out of a machine once, however often it is asked; it is forgotten with the machine. */
export function perMachine<T>(make: (machine: Machine) => T): (machine: Machine) => T {
  const known = new WeakMap<Machine, { made: T }>();
  return (machine) => {
    let entry = known.get(machine);
    if (entry === undefined) known.set(machine, (entry = { made: make(machine) }));
    return entry.made;
  };
}
