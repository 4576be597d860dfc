import hop from '../../../../../../../examples/kits/hop.yaml' with { loader: 'text' };
import doubleHop from '../../../../../../../examples/kits/double-hop.yaml' with { loader: 'text' };
import wallSlide from '../../../../../../../examples/kits/wall-slide.yaml' with { loader: 'text' };
import dash from '../../../../../../../examples/kits/dash.yaml' with { loader: 'text' };
import slopeSlide from '../../../../../../../examples/kits/slope-slide.yaml' with { loader: 'text' };
import crouch from '../../../../../../../examples/kits/crouch.yaml' with { loader: 'text' };
import rollUnder from '../../../../../../../examples/kits/roll-under.yaml' with { loader: 'text' };
import hang from '../../../../../../../examples/kits/hang.yaml' with { loader: 'text' };
import hooks from '../../../../../../../examples/kits/hooks.yaml' with { loader: 'text' };
import glide from '../../../../../../../examples/kits/glide.yaml' with { loader: 'text' };
import flap from '../../../../../../../examples/kits/flap.yaml' with { loader: 'text' };
import spin from '../../../../../../../examples/kits/spin.yaml' with { loader: 'text' };
import timedAction from '../../../../../../../examples/kits/timed-action.yaml' with { loader: 'text' };
import dashAbove from '../../../../../../../examples/kits/dash-above.yaml' with { loader: 'text' };
import list from '../../../../../../../examples/kits/kits.json' with { type: 'json' };
import { type Machine, readMoveset } from '@glenmark/core/machine';

/** An ability that is ready to be taken: a moveset of its own, and which of its states stand for what is there. */
export interface Kit {
  id: string;
  name: string;
  note: string;
  text: string;
  machine: Machine;
  yours: readonly string[];
}

const TEXTS: Record<string, string> = {
  hop: hop,
  'double-hop': doubleHop,
  'wall-slide': wallSlide,
  dash: dash,
  'slope-slide': slopeSlide,
  crouch: crouch,
  'roll-under': rollUnder,
  hang: hang,
  hooks: hooks,
  glide: glide,
  flap: flap,
  spin: spin,
  'timed-action': timedAction,
  'dash-above': dashAbove,
};

/** All kits, in the order they are offered. */
export const KITS: Kit[] = list.map(({ id, yours }) => {
  const text = TEXTS[id]!;
  const { machine, file } = readMoveset(text);
  return { id, yours, text, name: file!.name, note: file!.note ?? '', machine: machine! };
});
