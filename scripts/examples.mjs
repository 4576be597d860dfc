// The examples of findings in docs/findings/examples.yaml: what is found in each, and in its sound twin. The reference
// shows them, and a test holds them to what they are there for.
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parse } from 'yaml';
import {
  merged,
  proveAll,
  proveOn,
  rateFindings,
  scoutAll,
  tapeFindings,
} from '../packages/core/dist/findings/index.js';
import { readMoveset } from '../packages/core/dist/machine/index.js';
import { readTape } from '../packages/core/dist/run/index.js';
import { readCourse } from '../packages/core/dist/world/index.js';
import { root } from './build.mjs';

const { head, courses, examples } = parse(readFileSync(join(root, 'docs/findings/examples.yaml'), 'utf8'));

const SITUATIONS = 20_000;
const RATE = 30;

/** What a reader needs to see of a course, a tape, and what else finds it. */
const HOW = {
  check: 'without running anything',
  course: 'on a course, without running anything',
  scouting: 'by scouting',
  tape: 'by playing a tape',
  rate: `by playing a tape at ${RATE} ticks a second`,
};

const replaced = (text, { was, is }) => {
  if (!text.includes(was)) throw new Error(`found no '${was}' in the example to replace`);
  return text.replace(was, is);
};

const movesetOf = ({ declares = '', lanes, with: other }) =>
  `${other === undefined ? head : replaced(head, other)}${declares}lanes:\n${lanes}`;

const usable = ({ diagnostics, ...read }, what) => {
  const errors = diagnostics.filter((d) => d.severity !== 'warning');
  if (errors.length > 0)
    throw new Error(`${what}: ${errors.map((d) => `${d.line}: ${d.message}`).join('; ')}`);
  return read;
};

const courseOf = ({ course: name, at = '[0 m, 0 m]', zones }) =>
  usable(
    readCourse(
      `glenmark: 1\nkind: course\nname: ${name}\nsolids:\n${courses[name]}${zones === undefined ? '' : `zones:\n${zones}`}spawns: { start: { at: ${at} }, attic: { at: [6 m, 0 m] } }\n`,
    ),
    name,
  ).course;

function tapeOf({ inputs, course, expect }) {
  const text = `glenmark: 1\nkind: tape\nname: Example\nmoveset: Example\ncourse: ${course}\nspawn: start\nticks: 600\ninputs: ${JSON.stringify(inputs)}\nexpect: ${JSON.stringify(expect === undefined ? [] : [expect])}\n`;
  return usable(readTape(text), 'the tape').tape;
}

/** All that is found in a moveset by the way that an example is about. */
async function findingsIn(text, example) {
  const { machine } = usable(readMoveset(text), 'the moveset');
  const proved = proveAll(machine);
  if (example.by === 'check') return proved.findings;
  const course = courseOf(example);
  switch (example.by) {
    case 'course':
      return merged(proved.findings, proveOn(machine, [course], proved.findings));
    case 'scouting': {
      const { findings } = await scoutAll(machine, [course], proved, { seed: 1, situations: SITUATIONS });
      return merged(proved.findings, findings);
    }
    case 'tape':
      return merged(proved.findings, tapeFindings(machine, [{ tape: tapeOf(example), course }]));
    case 'rate':
      return rateFindings(
        machine,
        (rate) => readMoveset(text, { rate }).machine,
        [RATE],
        [{ tape: tapeOf(example), course }],
      );
  }
}

/** Each code with its example: what is found in it, and in its twin. */
export async function findingExamples() {
  const found = [];
  for (const [code, example] of Object.entries(examples)) {
    const text = movesetOf(example);
    try {
      const of = (findings) =>
        findings.filter(
          (f) => f.code === code && (example.named === undefined || f.evidence.name === example.named),
        );
      const faulty = of(await findingsIn(text, example));
      const sound = of(await findingsIn(replaced(text, example.sound), example));
      found.push({ code, example, faulty, sound });
    } catch (error) {
      throw new Error(`the example of ${code}: ${error.message}`, { cause: error });
    }
  }
  return found;
}

const fenced = (text) => `\`\`\`yaml\n${text.trimEnd()}\n\`\`\``;

/** An example as its page shows it. */
export function exampleLines({ example, faulty: [finding] }) {
  const { declares = '', lanes, by, course, zones, inputs, at, expect, with: other, sound } = example;
  const changed =
    other === undefined ? '' : `${other.is.replace('body:\n', '').trim()} # in what comes before\n`;
  const played = [
    ...(course === undefined ? [] : [`The solids of the course:\n\n${fenced(courses[course])}`]),
    ...(zones === undefined ? [] : [`Its zones:\n\n${fenced(zones)}`]),
    ...(inputs === undefined || Object.keys(inputs).length === 0
      ? []
      : [`The inputs of the tape, from ${at ?? '[0 m, 0 m]'} on:\n\n${fenced(inputLines(inputs))}`]),
    ...(expect === undefined ? [] : [`It expects \`${expect}\`.`]),
  ];
  return [
    `## An example\n\nAfter [the lines that every example begins with](examples.yaml):\n\n${fenced(`${changed}${declares}lanes:\n${lanes}`)}`,
    ...played,
    `Found ${HOW[by]}, ${finding.certainty}:\n\n> ${[finding.sentence, ...finding.reason].join('\n>\n> ')}`,
    mended(sound),
  ];
}

const inputLines = (inputs) =>
  Object.entries(inputs)
    .map(([control, list]) => `${control}: [${list.map((entry) => `"${entry}"`).join(', ')}]`)
    .join('\n');

function mended({ was, is }) {
  if (is === '') return `It is sound without \`${was}\`.`;
  if (is.includes('\n')) return `It is sound with this in place of \`${was}\`:\n\n${fenced(is)}`;
  return `It is sound with \`${is}\` in place of \`${was}\`.`;
}
