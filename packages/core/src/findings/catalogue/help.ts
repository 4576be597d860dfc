import type { Code } from './catalogue.js';

/** What the help of a code says beside what it is: why it hurts, and how it is established. */
export interface Help {
  hurts: string;
  how: string;
  /** What nothing can be said of it without: a run of a tape or of scouting, runs at other rates, scouting, or a course. */
  needs?: 'run' | 'rates' | 'scouting' | 'course';
}

const STRUCTURE = 'Proved from the crossings alone, through groups and from everywhere.';
const SOLVER =
  'Proved by the guard solver: no values of the facts make the guard true, under what always holds between facts and what nothing in the moveset ever does.';
const SKELETON =
  'Proved on the skeleton: everything discrete is followed exactly, all sensing and all inputs are left free, and still it cannot be otherwise.';
const RUNS = 'Witnessed in a run: of one of your tapes, or of a tape that scouting found and cut down.';
const TABLES = 'Proved from the tables of the moveset.';

export const HELP: Record<Code, Help> = {
  IN1: { hurts: 'Work went into a state that no player will ever see.', how: `${STRUCTURE} ${SKELETON}` },
  IN2: {
    hurts: 'The ability looks finished and never happens; the guard that forbids it reads as if it could.',
    how: `${SOLVER} Or: ${SKELETON}`,
  },
  IN3: {
    hurts: 'The ability never happens, though its guard does hold: another always takes its place.',
    how: SOLVER,
  },
  IN4: {
    hurts: 'It may be that no player gets there either.',
    how: 'Suspected: scouting did not get there in so many situations. Nothing is called unreachable because of that.',
    needs: 'scouting',
  },
  IN5: {
    hurts:
      'One of the ways that were meant to lead there is missing, and nobody notices for there are others.',
    how: `${SOLVER} Or: ${SKELETON}`,
  },
  IN6: {
    hurts: 'The player never gets what was put there to be found, and all that is built on it stays shut.',
    how: 'Proved for a course from the free space of the body in every stance. Suspected: scouting did not get there in so many situations.',
    needs: 'scouting',
  },
  OUT1: { hurts: 'The character stays in it for the rest of the game.', how: STRUCTURE },
  OUT2: {
    hurts: 'The character stays in it for the rest of the game, though ways out are written.',
    how: `${SOLVER} Or: ${SKELETON}`,
  },
  OUT3: {
    hurts: 'It works on the first try and hangs the character on a later one, or in one place.',
    how: 'Witnessed when a run comes to a situation from which the skeleton rules every way out, or from which everything was tried up to ten seconds ahead; suspected while no run has come there.',
  },
  OUT4: { hurts: 'The character moves on but can never again do what starts from home.', how: SKELETON },
  OUT5: { hurts: 'An ability works a few times and then never again.', how: SKELETON },
  OUT6: {
    hurts: 'The player is caught under a ceiling and must start again.',
    how: 'Witnessed: from where a run comes, everything was tried up to ten seconds ahead, and the stance that the ways out ask for never fits.',
    needs: 'scouting',
  },
  AG1: {
    hurts: 'What happens depends on the order of lines in a file, which the next edit may change.',
    how: RUNS,
  },
  AG2: {
    hurts: 'One of two abilities does nothing while the other is active, without any guard that says so.',
    how: RUNS,
  },
  AG3: {
    hurts: 'A press does two things, and one of them was not meant.',
    how: `${TABLES} Suspected where the two states need not be active together.`,
  },
  AG4: {
    hurts: 'Animation and sound stutter, and entry and exit effects run again and again.',
    how: `${RUNS} A crossing that leads back to its own state, and asks for nothing that it ends, is proved or suspected without one.`,
    needs: 'run',
  },
  AG5: { hurts: 'The lane ends a tick in a state that was never meant to last.', how: RUNS },
  AG6: {
    hurts: 'A state lasts longer than its clock says, because another lane restarts the clock.',
    how: RUNS,
    needs: 'run',
  },
  RK1: { hurts: 'Players climb out of the level.', how: RUNS, needs: 'run' },
  RK2: { hurts: 'Holding a button does what should take skill.', how: RUNS, needs: 'run' },
  RK3: {
    hurts: 'The press is eaten: the state changes, and the body does not move.',
    how: `${RUNS} Suspected where a lane that yields a channel is in a state that holds it, and the entered state does not move it.`,
  },
  RK4: { hurts: 'What asks for the probe never sees what stands before the body.', how: TABLES },
  RK5: {
    hurts: 'What was tuned at one tick rate fails at another.',
    how: 'Witnessed by playing a tape at other rates: `glenmark check --rates 30,120`.',
    needs: 'rates',
  },
  RK6: {
    hurts: 'Crouching makes the body airborne for a moment: it may fall, or lose its jump.',
    how: RUNS,
    needs: 'run',
  },
  RK7: { hurts: 'Walls that should stop the player do not.', how: RUNS, needs: 'run' },
  RK8: { hurts: 'The flow breaks: what was won by a dash is gone in one tick.', how: RUNS, needs: 'run' },
  RK9: {
    hurts: 'The body is pushed out of a solid, or stays in it, in a state that does not expect it.',
    how: RUNS,
    needs: 'run',
  },
  RK10: { hurts: 'The player hangs on any wall by holding a direction.', how: RUNS, needs: 'run' },
  RK11: {
    hurts: 'Whoever begins there can do nothing of what the course is for.',
    how: 'Proved for a course from the free space of the body in every stance.',
    needs: 'course',
  },
  TD1: { hurts: 'Whoever reads the moveset next looks for what it does.', how: TABLES },
  TD2: {
    hurts: 'A guard that asks for it has the same answer for ever, and does not look like it.',
    how: TABLES,
  },
  TD3: { hurts: 'What asks for the control never happens to a player.', how: TABLES },
  TD4: { hurts: 'The next change is made to one of them, and the other goes on as before.', how: SOLVER },
  TD5: { hurts: 'The guard looks stricter than it is.', how: SOLVER },
  TD6: { hurts: 'The branch looks as if it did something.', how: SOLVER },
  TD7: { hurts: 'The first touch of its slider makes the dial jump.', how: TABLES },
  TD8: { hurts: 'Whoever tunes the field wonders why nothing changes.', how: TABLES },
};

/** Codes of what only a run can show, or show for certain: that they were not found says nothing where none was played. */
export const SHOWN_BY_RUNS: ReadonlySet<string> = new Set<Code>([
  'IN4',
  'IN6',
  'OUT3',
  'OUT4',
  'OUT6',
  'AG1',
  'AG2',
  'AG4',
  'AG5',
  'AG6',
  'RK1',
  'RK2',
  'RK3',
  'RK5',
  'RK6',
  'RK7',
  'RK8',
  'RK9',
  'RK10',
]);
