import type { SaveState } from '../../data/desk';

/** How it stands with saving, in words. */
export const SAVE_WORDS: Record<SaveState, string> = {
  saved: $localize`saved`,
  saving: $localize`saving`,
  waiting: $localize`not saved, retrying`,
  conflict: $localize`not saved: conflict`,
  refused: $localize`not saved: refused`,
};
