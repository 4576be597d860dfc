/**
 * A key with the keys held beside it, as `Ctrl+Shift+Z`: the last part is the key as `KeyboardEvent.key` names it, or
 * `letter` for any that a guard may begin with. `Ctrl` is the command key on a Mac. `Shift?` is held or not.
 */
export type KeyPress = string;

const ENDS: Readonly<Record<string, string>> = {
  ArrowLeft: '←',
  ArrowRight: '→',
  ArrowUp: '↑',
  ArrowDown: '↓',
  PageUp: 'PgUp',
  PageDown: 'PgDn',
  Escape: 'Esc',
  '-': '−',
  Space: $localize`Space`,
  Enter: $localize`Enter`,
  Delete: $localize`Delete`,
  Backspace: $localize`Backspace`,
  letter: $localize`a letter`,
};

/** Whether an event is this press. */
export function isPress(press: KeyPress, event: KeyboardEvent): boolean {
  const { key, held, optional } = partsOf(press);
  const writes = /^[\p{L}\d_(]$/u.test(event.key);
  // Some keyboards need Shift for a sign, others do not: it is left out of account there.
  const isShiftFree =
    optional.includes('Shift') || key === 'letter' || (key.length === 1 && !/[a-z]/i.test(key));
  const wanted = (name: string, isHeld: boolean): boolean =>
    optional.includes(name) || held.includes(name) === isHeld;
  return (
    (key === 'letter' ? writes : named(event.key).toLowerCase() === key.toLowerCase()) &&
    wanted('Ctrl', event.ctrlKey || event.metaKey) &&
    wanted('Alt', event.altKey) &&
    (isShiftFree || wanted('Shift', event.shiftKey))
  );
}

/** The caps to press, as they stand on the keyboard; those that may be held or not are left out. */
export function capsOf(press: KeyPress): string[] {
  const { key, held } = partsOf(press);
  return [...held, ENDS[key] ?? (key.length === 1 ? key.toUpperCase() : key)];
}

/** A key by its code, as it stands on the key: `KeyD` is D, `ArrowLeft` is ←, `ShiftLeft` is Shift left. */
export const capOfCode = (code: string): string =>
  ENDS[code] ??
  code
    .replace(/^(Key|Digit)/, '')
    .replace(/(Left|Right)$/, (side) => ` ${side.toLowerCase()}`)
    .trim();

function partsOf(press: KeyPress): { key: string; held: string[]; optional: string[] } {
  // A plus may itself be the key.
  const parts = press === '+' ? ['+'] : press.split('+');
  const before = parts.slice(0, -1);
  return {
    key: parts[parts.length - 1] ?? '',
    held: before.filter((part) => !part.endsWith('?')),
    optional: before.filter((part) => part.endsWith('?')).map((part) => part.slice(0, -1)),
  };
}

const named = (key: string): string => (key === ' ' ? 'Space' : key);
