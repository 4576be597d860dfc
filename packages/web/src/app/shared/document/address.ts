import type { Kind } from '@glenmark/core/model';

/** Where a document is edited, as commands of the router; a tape is edited in the view of a moveset. */
export function addressOf({ kind, id }: { kind: Kind; id: string }, moveset?: string): string[] {
  switch (kind) {
    case 'moveset':
      return ['/moveset', id, 'model'];
    case 'course':
      return ['/course', id];
    case 'tape':
      return moveset === undefined ? ['/'] : ['/moveset', moveset, 'run'];
  }
}
