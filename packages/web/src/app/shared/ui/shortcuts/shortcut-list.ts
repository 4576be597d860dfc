import type { KeyPress } from './key-press';

/** Where a shortcut works: on every page, in a view, or on what has the keyboard in it. */
export type Place = 'everywhere' | 'grid' | 'map' | 'run' | 'axis' | 'bar' | 'course' | 'drive';

export interface Shortcut {
  where: Place;
  keys: readonly KeyPress[];
  /** What it does, as the sheet of keys says it. */
  what: string;
  /** What the finder calls it; without it the finder does not offer it. */
  name?: string;
  /** It works while somebody writes in a field, too. */
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

/** Every shortcut there is: what the handlers, the finder and the sheet of keys know comes from here. */
export const SHORTCUTS = {
  find: {
    where: 'everywhere',
    keys: ['Ctrl+K'],
    what: $localize`finds an action or a place`,
    whileTyping: true,
  },
  undo: {
    where: 'everywhere',
    keys: ['Ctrl+Z'],
    what: $localize`undoes`,
    name: $localize`Undo`,
    whileTyping: true,
  },
  redo: {
    where: 'everywhere',
    keys: ['Ctrl+Shift+Z'],
    what: $localize`redoes`,
    name: $localize`Redo`,
    whileTyping: true,
  },
  keys: { where: 'everywhere', keys: ['?'], what: $localize`shows this sheet`, name: $localize`Keys` },

  gridMove: {
    where: 'grid',
    keys: withShift(ARROWS),
    what: $localize`to the next cell; with Shift, picks more`,
  },
  gridEnds: {
    where: 'grid',
    keys: withShift(['Home', 'End']),
    what: $localize`to the first column, the last`,
  },
  gridPage: { where: 'grid', keys: withShift(['PageUp', 'PageDown']), what: $localize`ten rows up, down` },
  gridWrite: {
    where: 'grid',
    keys: ['letter'],
    what: $localize`begins a guard in the cell`,
    name: $localize`Write a guard`,
  },
  gridOpen: { where: 'grid', keys: ['Enter'], what: $localize`opens the crossing` },
  gridRemove: {
    where: 'grid',
    keys: ['Delete'],
    what: $localize`removes the crossing`,
    name: $localize`Remove a crossing`,
  },
  gridWidth: {
    where: 'grid',
    keys: ['Alt+ArrowLeft', 'Alt+ArrowRight', 'Alt+Enter'],
    what: $localize`makes the column narrower, wider, or fit`,
  },
  gridClipboard: {
    where: 'grid',
    keys: ['Ctrl+C', 'Ctrl+X', 'Ctrl+V'],
    what: $localize`copies, cuts, pastes a crossing; V also a copied state`,
  },

  mapOpen: { where: 'map', keys: ['Enter'], what: $localize`opens the state, or the crossing` },
  mapBegin: {
    where: 'map',
    keys: ['C'],
    what: $localize`begins a crossing from the state; Enter on another ends it there`,
  },
  mapLeave: { where: 'map', keys: ['Escape'], what: $localize`gives up the crossing that was begun` },

  play: { where: 'run', keys: ['Space'], what: $localize`plays, pauses`, name: $localize`Play or pause` },
  back: { where: 'run', keys: [','], what: $localize`a tick back`, name: $localize`Step one tick back` },
  forward: {
    where: 'run',
    keys: ['.'],
    what: $localize`a tick forward`,
    name: $localize`Step one tick forward`,
  },
  zoomIn: {
    where: 'run',
    keys: ['+'],
    what: $localize`fewer ticks; or the wheel with Ctrl`,
    name: $localize`Zoom in`,
  },
  zoomOut: { where: 'run', keys: ['-'], what: $localize`more ticks`, name: $localize`Zoom out` },
  zoomAll: { where: 'run', keys: ['0'], what: $localize`all ticks`, name: $localize`Show all ticks` },
  spanFrom: {
    where: 'run',
    keys: ['['],
    what: $localize`chooses ticks from here; or a drag with Shift`,
    name: $localize`Choose ticks from here`,
  },
  spanTo: {
    where: 'run',
    keys: [']'],
    what: $localize`chooses ticks up to here`,
    name: $localize`Choose ticks up to here`,
  },
  pasteTicks: { where: 'run', keys: ['Ctrl+V'], what: $localize`puts copied ticks in at the playhead` },
  mark: { where: 'run', keys: ['M'], what: $localize`marks this tick`, name: $localize`Mark this tick` },

  axisStep: {
    where: 'axis',
    keys: withShift(['ArrowLeft', 'ArrowRight']),
    what: $localize`a tick back, forward; with Shift, ten`,
  },
  axisEnds: { where: 'axis', keys: ['Home', 'End'], what: $localize`to the first tick, the last` },

  barNumbers: { where: 'bar', keys: ['Enter'], what: $localize`its numbers; or double-click` },
  barMove: {
    where: 'bar',
    keys: ['ArrowLeft', 'ArrowRight'].map((key) => `Shift?+Alt?+${key}`),
    what: $localize`moves it; with Alt it grows and shrinks, with Shift by ten`,
  },
  barRemove: { where: 'bar', keys: ['Delete', 'Backspace'], what: $localize`removes it` },

  tool: {
    where: 'course',
    keys: ['1', '2', '3', '4', '5', '6', '7', '8', '9'],
    what: $localize`takes a tool`,
  },
  nudge: {
    where: 'course',
    keys: withShift(ARROWS),
    what: $localize`moves what is chosen by a step of the grid`,
  },
  duplicate: {
    where: 'course',
    keys: ['Ctrl+D'],
    what: $localize`duplicates it`,
    name: $localize`Duplicate`,
  },
  mirror: { where: 'course', keys: ['M'], what: $localize`mirrors it`, name: $localize`Mirror` },
  removePiece: {
    where: 'course',
    keys: ['Delete'],
    what: $localize`removes it`,
    name: $localize`Remove from the course`,
  },
  chooseTool: { where: 'course', keys: ['Escape'], what: $localize`back to choosing` },

  pause: { where: 'drive', keys: ['P'], what: $localize`pauses, goes on` },
  driveBack: { where: 'drive', keys: [','], what: $localize`a tick back, when paused` },
  driveForward: { where: 'drive', keys: ['.'], what: $localize`a tick forward, when paused` },
  driveAgain: { where: 'drive', keys: ['Backspace'], what: $localize`starts again` },
  driveStop: { where: 'drive', keys: ['Escape'], what: $localize`stops, and keeps what was driven` },
} as const satisfies Record<string, Shortcut>;

export type ShortcutId = keyof typeof SHORTCUTS;

/** The shortcuts of a place, in the order of the list. */
export const shortcutsOf = (where: Place): [ShortcutId, Shortcut][] =>
  (Object.entries(SHORTCUTS) as [ShortcutId, Shortcut][]).filter(([, s]) => s.where === where);
