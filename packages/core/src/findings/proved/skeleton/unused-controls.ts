import { ofState } from '../guard.js';
import { present } from '../../../present.js';
import { chainOf, exitsOf, type Machine, readAlways, readBy, readIn } from '../../../machine/index.js';
import { type Finding, createFinding } from '../../sentences/finding.js';
import { endedElsewhere, type Trap } from './basis.js';
import { leafDigit } from './explore/exits.js';
import { situationsByLeaf, type Skeleton } from './explore/explore.js';
import { canReach } from './explore/reach.js';
import { tellsApart } from './reasons.js';

/**
 * OUT4 of controls: one that does something at first and may come to do nothing any more, in no situation that can
 * follow. `stuck` are the states that findings tell already to be stuck in: there, no control does anything. What is
 * so in all situations of a state is proved; what is so in some of them is suspected until a run comes there.
 */
export function unusedControls(
  machine: Machine,
  skeleton: Skeleton,
  stuck: ReadonlySet<string>,
  { suspects, found }: { suspects: Trap[]; found: readonly Finding[] },
): Finding[] {
  const isEnded = endedElsewhere(machine, skeleton, found);
  const { slice, situations } = skeleton;
  const own = leafDigit(slice, slice.lane);
  const { leaves } = present(slice.digits[own]);
  const always = readAlways(machine);
  const elsewhere = listenedElsewhere(machine, slice.lanes);
  // A state that ends, or that is reported to be stuck, has been reported; so has what only leads there.
  const isOver = (leaf: number): boolean =>
    stuck.has(present(machine.states[leaf]).name) ||
    chainOf(machine, leaf).some((s) => present(machine.states[s]).final);
  return machine.controls.flatMap((control, c): Finding[] => {
    if (always.includes(c) || elsewhere.has(c)) return [];
    const listens = listening(machine, skeleton, c);
    const isHeard = canReach(
      skeleton,
      (values) => isOver(present(leaves[present(values[own])])) || isEnded(values) || listens(values),
    );
    // A control that does nothing from the start on is only untidy, which is reported elsewhere.
    if (situations.length === 0 || isHeard[0] === 0) return [];
    const unused = [...situationsByLeaf(skeleton)].flatMap(([leaf]) => {
      const places = situations.flatMap((values, i) => (leaves[present(values[own])] === leaf ? [i] : []));
      const lost = places.filter((i) => isHeard[i] === 0);
      return lost.length === 0 ? [] : [{ leaf, lost, heard: places.filter((i) => isHeard[i] !== 0) }];
    });
    const sure = unused.find(({ heard }) => heard.length === 0);
    const first = sure ?? unused[0];
    if (first === undefined) return [];
    const { leaf, lost, heard } = first;
    const finding = createFinding({
      ...ofState(machine, leaf),
      code: 'OUT4',
      certainty: sure === undefined ? 'suspected' : 'proved',
      path: present(machine.states[leaf]).path,
      evidence: {
        kind: 'control',
        control: control.name,
        listeners: listeners(machine, c),
        values: tellsApart(
          machine,
          skeleton,
          lost.map((i) => present(situations[i])),
          heard.map((i) => present(situations[i])),
        ),
      },
    });
    if (sure === undefined) suspects.push({ finding, skeleton, places: new Set(lost) });
    return [finding];
  });
}

/** Whether a control may do something in the tick after a situation: a state of it reads it, or an open way does. */
function listening(
  machine: Machine,
  { slice, exits, isOpen }: Skeleton,
  control: number,
): (values: readonly number[]) => boolean {
  const lanes = slice.lanes.map((lane) => leafDigit(slice, lane));
  const listeners = new Map(
    [...exits].map(([leaf, list]) => [
      leaf,
      {
        itself: readIn(machine, leaf).includes(control),
        ways: list.filter(({ crossing }) => readBy(machine, crossing, leaf).includes(control)),
      },
    ]),
  );
  return (values) =>
    lanes.some((digit) => {
      const { itself, ways } = present(
        listeners.get(present(present(slice.digits[digit]).leaves[present(values[digit])])),
      );
      return itself || ways.some((exit) => isOpen(exit, values));
    });
}

/** Controls that lanes outside of a slice listen to anywhere: what becomes of those is not known here. */
function listenedElsewhere(machine: Machine, lanes: readonly number[]): Set<number> {
  const others = machine.lanes.filter((lane) => !lanes.includes(lane.index));
  return new Set(
    others.flatMap((lane) => [
      ...lane.states.flatMap((s) => readIn(machine, s)),
      ...lane.states.flatMap((leaf) =>
        exitsOf(machine, leaf).flatMap(({ crossing }) => readBy(machine, crossing, leaf)),
      ),
    ]),
  );
}

/** The states that listen to a control, by themselves or in their ways out, by name. */
const listeners = (machine: Machine, control: number): string[] =>
  machine.states
    .filter(
      (state) =>
        state.members.length === 0 &&
        (readIn(machine, state.index).includes(control) ||
          exitsOf(machine, state.index).some(
            ({ crossing }) =>
              crossing.from.length > 0 && readBy(machine, crossing, state.index).includes(control),
          )),
    )
    .map((state) => state.name);
