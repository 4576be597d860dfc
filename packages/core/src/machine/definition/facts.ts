import { factId, type FactName, type FactRef, idOfRef } from '../../notation/index.js';

/** Where each fact of a machine is kept: one slot each, in one array of numbers. Memories have slots without a fact. */
export interface FactTable {
  refs: (FactRef | undefined)[];
  /** Slots by `factId`. */
  slots: Map<string, number>;
}

export const createFactTable = (): FactTable => ({ refs: [], slots: new Map() });

/** Adds a fact, or a slot without one; a fact that is there already keeps its slot. */
export function addFact(table: FactTable, ref: FactRef | undefined): number {
  if (ref === undefined) return table.refs.push(undefined) - 1;
  const id = idOfRef(ref);
  const known = table.slots.get(id);
  if (known !== undefined) return known;
  const slot = table.refs.push(ref) - 1;
  table.slots.set(id, slot);
  return slot;
}

/**
 * The slot of a fact.
 * @throws {RangeError} when the machine has no such fact
 */
export function slotOf(table: FactTable, fact: FactName, of?: string, tag?: string): number {
  const id = factId(fact, of, tag);
  const slot = table.slots.get(id);
  if (slot === undefined) throw new RangeError(`no fact is called ${id}`);
  return slot;
}

/** The fact that an id stands for; undefined for what is no fact of the table. */
export function refOf(table: FactTable, id: string): FactRef | undefined {
  const slot = table.slots.get(id);
  return slot === undefined ? undefined : table.refs[slot];
}
