import type { Machine } from '@glenmark/core/machine';
import type { Path } from '@glenmark/core/model';
import { capOfCode } from '../../../shared/ui/shortcuts/key-press';

/** A bound key: what is on it, who else uses it, and what a click on it does. */
export interface KeyCap {
  code: string;
  text: string;
  clash: string;
  title: string;
}

/** The keys of a control as they stand in the document, one list an end. */
export interface KeyList {
  label: string;
  path: Path;
  keys: KeyCap[];
}

export interface ControlRow {
  name: string;
  kind: 'button' | 'axis' | 'aim';
  path: Path;
  lists: KeyList[];
  pad: string;
}

export function controlRows(machine: Machine): ControlRow[] {
  const users = (code: string): string[] =>
    machine.controls
      .filter((c) => [...c.keys, ...c.negative, ...c.positive].includes(code))
      .map((c) => c.name);
  return machine.controls.map((control): ControlRow => {
    const list = (label: string, path: Path, codes: readonly string[]): KeyList => ({
      label,
      path,
      keys: codes.map((code) => {
        const clash = users(code)
          .filter((name) => name !== control.name)
          .join(', ');
        const title = clash === '' ? '' : $localize`Also bound to ${clash}`;
        return { code, text: capOfCode(code), clash, title };
      }),
    });
    const { path } = control;
    const lists =
      control.kind === 'axis'
        ? [
            list('−', [...path, 'axis', 'negative'], control.negative),
            list('+', [...path, 'axis', 'positive'], control.positive),
          ]
        : control.kind === 'button'
          ? [list('', [...path, 'button'], control.keys)]
          : [];
    return { name: control.name, kind: control.kind, path, lists, pad: control.pad.join(', ') };
  });
}
