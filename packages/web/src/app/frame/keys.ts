/** What keys and the pointer do, by where they do it: the source of the sheet of keys. */
export const KEYS: { where: string; keys: [keys: string, what: string][] }[] = [
  {
    where: $localize`everywhere`,
    keys: [
      ['Ctrl K', $localize`find an action or a place`],
      ['Ctrl Z', $localize`undo; with Shift, redo`],
      ['?', $localize`this sheet`],
    ],
  },
  {
    where: $localize`Model, in the grid`,
    keys: [
      ['← → ↑ ↓', $localize`to the next cell; with Shift, picks more`],
      ['Home End', $localize`to the first column, the last`],
      ['PgUp PgDn', $localize`ten rows up, down`],
      [$localize`a letter`, $localize`begins a guard in the cell`],
      [$localize`Enter`, $localize`opens the crossing`],
      [$localize`Delete`, $localize`removes the crossing`],
      ['Ctrl C X V', $localize`copies, cuts, pastes a crossing; V also a copied state`],
    ],
  },
  {
    where: $localize`Run`,
    keys: [
      [$localize`Space`, $localize`plays, pauses`],
      [', .', $localize`a tick back, on`],
      ['← →', $localize`on the axis, a tick; with Shift, ten`],
      ['+ − 0', $localize`fewer ticks, more, all; or the wheel with Ctrl`],
      ['[ ]', $localize`chooses ticks from here, up to here; or a drag with Shift`],
      ['Ctrl V', $localize`puts copied ticks in at the playhead`],
      ['M', $localize`marks this tick`],
    ],
  },
  {
    where: $localize`Run, on a bar`,
    keys: [
      [$localize`Enter`, $localize`its numbers; or double-click`],
      ['← →', $localize`moves it; with Alt it grows and shrinks`],
      [$localize`Delete`, $localize`removes it`],
    ],
  },
  {
    where: $localize`Course`,
    keys: [
      [$localize`1 to 9`, $localize`takes a tool`],
      ['← → ↑ ↓', $localize`moves what is chosen by a step of the grid`],
      ['Ctrl D', $localize`duplicates it`],
      ['M', $localize`mirrors it`],
      [$localize`Delete`, $localize`removes it`],
      ['Esc', $localize`back to choosing`],
    ],
  },
];
