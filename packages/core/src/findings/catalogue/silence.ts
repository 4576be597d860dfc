import type { Code } from './catalogue.js';

const SENSES =
  'What a guard senses may be anything that the laws between facts allow. Courses rule more out only where they are given and runs begin at their spawns: zones, surfaces, anchors and abilities that they do not have, and zones and stances that no way with enough room leads to. What rests on how high the body rises is only suspected, and nothing is said of a course with movers.';
const SIZE = 'What would be too large to decide is left out, and named under “Not decided”.';
const PLAYED = 'Only what was played is seen: without a tape or a scouting that comes there it says nothing.';

/** When each code says nothing though there may be something: what a reader must not conclude from its silence. */
export const SILENCE: Record<Code, string> = {
  IN1: 'It asks only whether a crossing leads there that may be taken; one that merely never happens in play is IN4.',
  IN2: `${SENSES} Products of facts, and lengths of time that are worked out, are left free. ${SIZE}`,
  IN3: 'A crossing that needs an ability, or leads into a stance that need not fit where the other does, is not taken to win: it may be refused.',
  IN4: 'It says nothing of what another finding rules out, and nothing without scouting.',
  IN5: `${SENSES} ${SIZE}`,
  IN6: 'Only zones that unlock an ability of the moveset that is locked at first are asked for. It says nothing without a course.',
  OUT1: 'A lane of one state, and a state that is marked final, are meant to stay.',
  OUT2: `${SENSES} A way out that is merely refused (no room, a locked ability) counts as a way out. ${SIZE}`,
  OUT3: 'A trap that needs a place is searched for at a few suspected places only, up to ten seconds ahead. What another lane’s end brings about is told there.',
  OUT4: 'A control that another lane still reads anywhere is not called lost; nor is one whose crossing a variable closes, which is OUT5.',
  OUT5: 'Only a value that nothing changes any more is told: what a zone, a refill or another lane may give back is not. Charges and abilities are left out, for they come back by themselves or by a zone.',
  OUT6: 'It is searched for at a few suspected places only.',
  AG1: 'Crossings that need a locked ability may tie only once it is unlocked; a tie between crossings that are never taken is not told.',
  AG2: 'Two writes of the same value are no conflict, and neither is what a lane yields.',
  AG3: 'Controls that are never listened to at once may share a key.',
  AG4: 'What changes while a control changes is no flicker. A crossing that leads back to its own state is told only when it asks for nothing that it ends itself.',
  AG5: 'A straight chain of passing states, however long, is no loop.',
  AG6: PLAYED,
  RK1: PLAYED,
  RK2: PLAYED,
  RK3: `${PLAYED} What a state that is entered after the launch does to it is meant. Slower than 1 m/s is no launch.`,
  RK4: 'Only rays that begin and end inside one part of the body are told, and only where no other stance is possible.',
  RK5: 'Only expectations of tapes at the rates that are asked for are compared.',
  RK6: PLAYED,
  RK7: PLAYED,
  RK8: `${PLAYED} A cut that the left state would have made as well is not blamed on the change.`,
  RK9: PLAYED,
  RK10: PLAYED,
  RK11: 'It says nothing without a course, of a course with movers, nor of one that has nothing else to come to. A gap counts as wide enough when it is less than 2 cm too narrow.',
  TD1: 'What only an effect that is never performed reads counts as read.',
  TD2: 'What a zone of some course may change (an ability) counts as written.',
  TD3: 'An aim follows the pointer and needs no key.',
  TD4: 'Crossings that do something else, need another ability or may re-enter are not the same.',
  TD5: SIZE,
  TD6: SIZE,
  TD7: 'A dial that is worked out from others has no range of its own.',
  TD8: 'Only fields that the format itself overrules are told.',
};
