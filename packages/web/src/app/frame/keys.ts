/** What keys and the pointer do, by where they do it: the source of the sheet of keys. */
export const KEYS: { where: string; keys: [keys: string, what: string][] }[] = [
  {
    where: 'everywhere',
    keys: [
      ['Ctrl K', 'find an action or a place'],
      ['Ctrl Z', 'undo; with Shift, redo'],
      ['?', 'this sheet'],
    ],
  },
  {
    where: 'Model, in the grid',
    keys: [
      ['← → ↑ ↓', 'to the next cell; with Shift, picks more'],
      ['a letter', 'begins a guard in the cell'],
      ['Enter', 'opens the crossing'],
      ['Delete', 'removes the crossing'],
      ['Ctrl C X V', 'copies, cuts, pastes a crossing; V also a copied state'],
    ],
  },
  {
    where: 'Run',
    keys: [
      ['Space', 'plays, pauses'],
      [', .', 'a tick back, on'],
      ['← →', 'on the axis, a tick; with Shift, ten'],
      ['+ − 0', 'fewer ticks, more, all; or the wheel with Ctrl'],
      ['[ ]', 'chooses ticks from here, up to here; or a drag with Shift'],
      ['Ctrl V', 'puts copied ticks in at the playhead'],
      ['M', 'marks this tick'],
    ],
  },
  {
    where: 'Run, on a bar',
    keys: [
      ['Enter', 'its numbers; or a double click'],
      ['← →', 'moves it; with Alt it grows and shrinks'],
      ['Delete', 'removes it'],
    ],
  },
  {
    where: 'Course',
    keys: [
      ['1 to 9', 'takes a tool'],
      ['← → ↑ ↓', 'moves what is chosen by a step of the grid'],
      ['Ctrl D', 'duplicates it'],
      ['M', 'mirrors it'],
      ['Delete', 'removes it'],
      ['Esc', 'back to choosing'],
    ],
  },
];
