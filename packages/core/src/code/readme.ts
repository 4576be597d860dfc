import { place } from '../machine/index.js';
import type { Member } from './members.js';
import type { Outline } from './outline.js';
import type { Language } from './print/language.js';

/** What goes beside the code of a moveset: how a game calls it, what it asks for, what it leaves to the game. */
export function readmeOf(outline: Outline, language: Language): string {
  const { machine, used, constants, members } = outline;
  const naming = language.naming(outline);
  const name = (at: number): string => {
    const member = members.fields.get(at);
    return member === undefined ? '' : `\`${naming.member(member)}\``;
  };
  const row = (m: Member): string => `| \`${naming.member(m)}\` | ${m.note} |`;
  const table = (head: string, list: readonly Member[]): string[] =>
    list.length === 0 ? [] : [`| ${head} | |`, '|---|---|', ...list.map(row), ''];
  const isUsed = (at: number): boolean => used.situation.some((member) => member === members.fields.get(at));
  const { drops } = members.beyond;
  return [
    `# ${machine.name} in ${language.title}`,
    '',
    `Glenmark made \`${language.file(outline)}\` from the moveset *${machine.name}*. It decides, counts the clocks, performs the effects and works out the velocity, ${machine.rate} times a second; the game senses and moves. Every number is what it is in Glenmark, to the last bit.`,
    '',
    '## Calling it',
    '',
    `\`\`\`${language.id}`,
    ...language.usage(outline),
    '```',
    '',
    ...(language.compile === undefined
      ? []
      : [
          `Compile with \`${language.compile}\`: a compiler that contracts a product and a sum into one operation gives other last bits.`,
          '',
        ]),
    'It makes nothing new in a tick, and needs nothing beside itself. Every tick is as long as the file says: where the game draws at another rate, call it as often as the time has come, and draw in between.',
    '',
    '## What the game fills in before a tick',
    '',
    ...table('control', used.inputs),
    ...table('sense', used.senses),
    ...naming.tethers.map(
      (t) =>
        `Where the tether ${t.name} would take hold: \`${t.x}\` and \`${t.y}\` (m), and \`${t.on}\`, the mover that this place is on (-1 none).`,
    ),
    'Zones that blow or slow the body are listed with their wind and drag; leave the list empty where the game has none.',
    '',
    '## What comes out',
    '',
    ...table('value', used.situation),
    '## What it leaves to the game',
    '',
    `- Moving the body by the velocity, and writing back what walls and ground left of it. On ground that can be walked on, gravity is carried by the ground.`,
    `- Changing the body's stance when ${name(place.WANTED)} asks for it and there is room, its anchor staying where it is. Where there is no room, the stance stays.`,
    ...(isUsed(drops) ? [`- Dropping through one-way platforms in a tick with ${name(drops)}.`] : []),
    ...(naming.tethers.length === 0
      ? []
      : ['- Moving the anchors that are on a mover, and keeping the body within reach of what it hangs on.']),
    ...(machine.integration === 'semi-implicit'
      ? []
      : [
          '- Moving by the travel velocity of a tick, and adding afterwards what the velocity has beyond it: the moveset asks for that with `integration`.',
        ]),
    '',
    ...dialLines(
      constants.list.map((d) => `\`${naming.constant(d.name)}\``),
      constants.workedIn,
    ),
  ]
    .join('\n')
    .replace(/\n{3,}/g, '\n\n')
    .trimEnd()
    .concat('\n');
}

function dialLines(constants: readonly string[], workedIn: readonly string[]): string[] {
  const several = (names: readonly string[]): string => names.join(', ');
  return [
    '## Dials',
    '',
    constants.length === 0
      ? 'No dial stands in the code as it is.'
      : `Constants that can be turned in the code: ${several(constants)}.`,
    ...(workedIn.length === 0
      ? []
      : [
          `Worked into other numbers, so turn them in the moveset and make the code again: ${several(workedIn)}.`,
        ]),
    '',
  ];
}
