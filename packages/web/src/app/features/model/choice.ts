/** What is chosen here, as the address keeps it. */
export interface Choice {
  lane?: string | undefined;
  from?: string | undefined;
  to?: string | undefined;
  state?: string | undefined;
  crossing?: string | undefined;
  /** The lane as a grid, or as a map. */
  as?: string | undefined;
  /** What is beside it: the sheet of a state, the values, the text. */
  beside?: string | undefined;
}

/** The lane that is chosen, by its place; the first when none is. */
export const laneOf = ({ lanes }: { lanes: readonly { name: string }[] }, { lane }: Choice): number =>
  Math.max(
    0,
    lanes.findIndex((l) => l.name === lane),
  );

/** How a lane can be shown, and what can be beside it. */
export const SHOWN_AS = ['grid', 'map'] as const;
export const BESIDE = ['sheet', 'values', 'text'] as const;

/** What the buttons for them are called. */
export const VIEW_WORDS = {
  grid: $localize`grid`,
  map: $localize`map`,
  sheet: $localize`sheet`,
  values: $localize`values`,
  text: $localize`text`,
};
