import type { Scouting } from '@glenmark/contract';
import type { Scoutings } from '@glenmark/server';

/** What a scouting found, without what depends on who searched when. */
export const foundOf = ({ findings, coverage, done, ticks, state }: Scouting) => ({
  findings,
  coverage,
  done,
  ticks,
  state,
});

/** Waits for the end of a scouting as somebody who follows it does; tells all states that were seen. */
export const followed = (scoutings: Scoutings, id: string): Promise<Scouting[]> =>
  new Promise((done, fail) => {
    const seen: Scouting[] = [];
    scoutings
      .subscribe(
        id,
        (state) => seen.push(state),
        () => done(seen),
      )
      .catch(fail);
  });

/** A scouting as it ended. */
export const scouted = async (scoutings: Scoutings, id: string): Promise<Scouting> =>
  (await followed(scoutings, id)).at(-1)!;
