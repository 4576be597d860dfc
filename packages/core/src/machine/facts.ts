/**
 * Where each fact of a machine is kept: one slot a key, in one array of numbers. Keys are the facts as they are
 * written (`grounded`, `held(hop)`), a variable's name, or `elapsed@State`. Memories have slots without a key.
 */
export interface FactTable {
  keys: (string | undefined)[];
  slots: Map<string, number>;
}

export const createFactTable = (): FactTable => ({ keys: [], slots: new Map() });

export function addFact(table: FactTable, key: string | undefined): number {
  const slot = table.keys.push(key) - 1;
  if (key !== undefined) table.slots.set(key, slot);
  return slot;
}

/** The slot of a fact that every machine has. */
export function slotOf(table: FactTable, key: string): number {
  const slot = table.slots.get(key);
  if (slot === undefined) throw new RangeError(`no fact is called ${key}`);
  return slot;
}
