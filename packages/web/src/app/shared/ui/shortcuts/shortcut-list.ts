import type { KeyPress } from './key-press';

/** Where a shortcut works: on every page, in a view, or on the element that has the focus. */
export type Place = 'everywhere' | 'grid' | 'map' | 'run' | 'axis' | 'bar' | 'course' | 'drive';

export interface Shortcut {
  where: Place;
  keys: readonly KeyPress[];
  /** What it does, as the sheet of keys says it. */
  what: string;
  /** What the finder calls it; without it the finder does not offer it. */
  name?: string;
  /** It also works while a field has the focus. */
  whileTyping?: true;
}

export const PLACES: Readonly<Record<Place, string>> = {
  everywhere: $localize`everywhere`,
  grid: $localize`Model, in the grid`,
  map: $localize`Model, on the map`,
  run: $localize`Run`,
  axis: $localize`Run, on the axis of time`,
  bar: $localize`Run, on a bar`,
  course: $localize`Course`,
  drive: $localize`Drive`,
};

const ARROWS = ['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown'];
const withShift = (keys: readonly string[]): string[] => keys.map((key) => `Shift?+${key}`);

/** Every shortcut. The handlers, the finder and the sheet of keys all read this list. */
export const SHORTCUTS = {
  find: {
    where: 'everywhere',
    keys: ['Ctrl+K'],
    what: $localize`find an action or a place`,
    whileTyping: true,
  },
  undo: {
    where: 'everywhere',
    keys: ['Ctrl+Z'],
    what: $localize`undo`,
    name: $localize`Undo`,
    whileTyping: true,
  },
  redo: {
    where: 'everywhere',
    keys: ['Ctrl+Shift+Z'],
    what: $localize`redo`,
    name: $localize`Redo`,
    whileTyping: true,
  },
  keys: { where: 'everywhere', keys: ['?'], what: $localize`show this list`, name: $localize`Keys` },

  gridMove: {
    where: 'grid',
    keys: withShift(ARROWS),
    what: $localize`go to the next cell; with Shift, select several`,
  },
  gridEnds: {
    where: 'grid',
    keys: withShift(['Home', 'End']),
    what: $localize`go to the first or last column`,
  },
  gridPage: {
    where: 'grid',
    keys: withShift(['PageUp', 'PageDown']),
    what: $localize`go ten rows up or down`,
  },
  gridWrite: {
    where: 'grid',
    keys: ['letter'],
    what: $localize`start writing a guard`,
    name: $localize`Write a guard`,
  },
  gridOpen: { where: 'grid', keys: ['Enter'], what: $localize`edit the crossing` },
  gridRemove: {
    where: 'grid',
    keys: ['Delete'],
    what: $localize`remove the crossing`,
    name: $localize`Remove a crossing`,
  },
  gridWidth: {
    where: 'grid',
    keys: ['Alt+ArrowLeft', 'Alt+ArrowRight', 'Alt+Enter'],
    what: $localize`make the column narrower, wider, or just wide enough`,
  },
  gridClipboard: {
    where: 'grid',
    keys: ['Ctrl+C', 'Ctrl+X', 'Ctrl+V'],
    what: $localize`copy, cut or paste a crossing; Ctrl V also pastes a copied state`,
  },

  mapOpen: { where: 'map', keys: ['Enter'], what: $localize`open the state or the crossing` },
  mapBegin: {
    where: 'map',
    keys: ['C'],
    what: $localize`start a crossing here; Enter on another state finishes it`,
  },
  mapLeave: { where: 'map', keys: ['Escape'], what: $localize`cancel that crossing` },

  play: { where: 'run', keys: ['Space'], what: $localize`play or pause`, name: $localize`Play or pause` },
  back: { where: 'run', keys: [','], what: $localize`one tick back`, name: $localize`Step one tick back` },
  forward: {
    where: 'run',
    keys: ['.'],
    what: $localize`one tick forward`,
    name: $localize`Step one tick forward`,
  },
  zoomIn: {
    where: 'run',
    keys: ['+'],
    what: $localize`show fewer ticks; or Ctrl and the wheel`,
    name: $localize`Zoom in`,
  },
  zoomOut: { where: 'run', keys: ['-'], what: $localize`show more ticks`, name: $localize`Zoom out` },
  zoomAll: { where: 'run', keys: ['0'], what: $localize`show all ticks`, name: $localize`Show all ticks` },
  spanFrom: {
    where: 'run',
    keys: ['['],
    what: $localize`select ticks from here; or drag with Shift`,
    name: $localize`Select ticks from here`,
  },
  spanTo: {
    where: 'run',
    keys: [']'],
    what: $localize`select ticks up to here`,
    name: $localize`Select ticks up to here`,
  },
  pasteTicks: { where: 'run', keys: ['Ctrl+V'], what: $localize`paste copied ticks at the playhead` },
  mark: { where: 'run', keys: ['M'], what: $localize`mark this tick`, name: $localize`Mark this tick` },

  axisStep: {
    where: 'axis',
    keys: withShift(['ArrowLeft', 'ArrowRight']),
    what: $localize`one tick back or forward; with Shift, ten`,
  },
  axisEnds: { where: 'axis', keys: ['Home', 'End'], what: $localize`go to the first or last tick` },

  barNumbers: { where: 'bar', keys: ['Enter'], what: $localize`edit its numbers; or double-click` },
  barMove: {
    where: 'bar',
    keys: ['ArrowLeft', 'ArrowRight'].map((key) => `Shift?+Alt?+${key}`),
    what: $localize`move it; with Alt, make it longer or shorter; with Shift, ten ticks at a time`,
  },
  barRemove: { where: 'bar', keys: ['Delete', 'Backspace'], what: $localize`remove it` },

  tool: {
    where: 'course',
    keys: ['1', '2', '3', '4', '5', '6', '7', '8', '9'],
    what: $localize`choose a tool`,
  },
  nudge: {
    where: 'course',
    keys: withShift(ARROWS),
    what: $localize`move the selection by one step of the grid`,
  },
  duplicate: {
    where: 'course',
    keys: ['Ctrl+D'],
    what: $localize`duplicate the selection`,
    name: $localize`Duplicate`,
  },
  mirror: { where: 'course', keys: ['M'], what: $localize`mirror the selection`, name: $localize`Mirror` },
  removePiece: {
    where: 'course',
    keys: ['Delete'],
    what: $localize`remove it`,
    name: $localize`Remove from the course`,
  },
  chooseTool: { where: 'course', keys: ['Escape'], what: $localize`back to the Choose tool` },

  pause: { where: 'drive', keys: ['P'], what: $localize`pause or go on` },
  driveBack: { where: 'drive', keys: [','], what: $localize`pause, and one tick back` },
  driveForward: { where: 'drive', keys: ['.'], what: $localize`pause, and one tick forward` },
  driveAgain: { where: 'drive', keys: ['Backspace'], what: $localize`start again` },
  driveStop: { where: 'drive', keys: ['Escape'], what: $localize`stop and keep what was driven` },
} as const satisfies Record<string, Shortcut>;

export type ShortcutId = keyof typeof SHORTCUTS;

/** The shortcuts of a place, in the order of the list. */
export const shortcutsOf = (where: Place): [ShortcutId, Shortcut][] =>
  (Object.entries(SHORTCUTS) as [ShortcutId, Shortcut][]).filter(([, s]) => s.where === where);
