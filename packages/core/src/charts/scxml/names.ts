import { NAME } from '../../model/index.js';

/** Names of a chart as names of ours, no two the same; those that are right already stay. */
export interface ChartNames {
  /** The name of an identifier, given when it is first asked for. */
  of: (id: string) => string;
  /** Identifiers that could not stay as they are, with the names they have. */
  changed: () => { id: string; name: string }[];
}

export function chartNames(taken: readonly string[] = []): ChartNames {
  const names = new Map<string, string>();
  const used = new Set(taken);
  const changes: { id: string; name: string }[] = [];
  return {
    of: (id) => {
      const known = names.get(id);
      if (known !== undefined) return known;
      const plain = NAME.test(id)
        ? id
        : `_${id.replace(/[^A-Za-z0-9_]+/g, '_')}`.replace(/^_(?=[A-Za-z])/, '');
      let name = plain;
      for (let n = 2; used.has(name); n++) name = `${plain}_${n}`;
      used.add(name);
      names.set(id, name);
      if (name !== id) changes.push({ id, name });
      return name;
    },
    changed: () => changes,
  };
}
