// `npm run reference`: writes what the documents take from the code: the JSON Schemas, the tables of facts, and an
// example for every field of every file, taken from the samples; and the catalogue of findings.
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  CATALOGUE,
  findingJsonSchema,
  HELP,
  SILENCE,
  QUESTIONS,
} from '../packages/core/dist/findings/index.js';
import { jsonSchema, KINDS } from '../packages/core/dist/model/index.js';
import { dimensionName, FACTS, FACTS_OF } from '../packages/core/dist/notation/index.js';
import { root } from './build.mjs';
import { exampleLines, findingExamples } from './examples.mjs';
import { fieldExamples } from './fields.mjs';

mkdirSync(join(root, 'docs/schema'), { recursive: true });
for (const kind of KINDS) {
  writeFileSync(
    join(root, `docs/schema/${kind}.schema.json`),
    `${JSON.stringify(jsonSchema(kind), null, 2)}\n`,
  );
}

writeFileSync(
  join(root, 'docs/schema/finding.schema.json'),
  `${JSON.stringify(findingJsonSchema(), null, 2)}\n`,
);

const table = (heads, rows) =>
  [heads, heads.map(() => '---'), ...rows].map((row) => `| ${row.join(' | ')} |`).join('\n');
const row = (name, { dimension, example, help }, thing) => [
  `\`${name}\``,
  dimensionName(dimension),
  help,
  `\`${example.replace('NAME', thing)}\``,
];
const heads = ['fact', 'is', 'meaning', 'for example'];
const facts = table(
  heads,
  Object.entries(FACTS).map(([name, entry]) => row(name, entry, '')),
);
const factsOf = table(
  heads,
  Object.entries(FACTS_OF).map(([name, entry]) =>
    row(`${name}(${entry.of}${entry.also === undefined ? '' : `, ${entry.also}`})`, entry, entry.of),
  ),
);
const file = join(root, 'docs/notation.md');
const text = readFileSync(file, 'utf8');
writeFileSync(
  file,
  text.replace(
    /<!-- facts -->[\s\S]*<!-- end of facts -->/,
    () => `<!-- facts -->\n${facts}\n\n## Facts of things\n\n${factsOf}\n<!-- end of facts -->`,
  ),
);

const sections = KINDS.map((kind) => {
  const rows = [...fieldExamples(kind)].map(([path, found]) => [
    `\`${path}\``,
    found === undefined ? '' : `\`${found.text}\``,
    found === undefined ? '' : `[${found.file}](../examples/${found.file})`,
  ]);
  return `## ${kind}\n\n${table(['field', 'for example', 'in'], rows)}\n`;
});
writeFileSync(
  join(root, 'docs/fields.md'),
  `# Every field, with an example\n\nMade by \`npm run reference\` from the schemas and the samples. \`*\` stands for a name, \`[]\` for an item of a list. What each means: [files](format.md).\n\n${sections.join('\n')}`,
);

// A page a code, with an example: what is found in it is found now, not written down.
mkdirSync(join(root, 'docs/findings'), { recursive: true });
for (const shown of await findingExamples()) {
  const { name, what, repair, question } = CATALOGUE[shown.code];
  const lines = [
    `# ${shown.code} ${name}`,
    `*${QUESTIONS[question]}.* ${what}`,
    `## Why it hurts\n\n${HELP[shown.code].hurts}`,
    `## How it is established\n\n${HELP[shown.code].how}`,
    `## When it says nothing\n\n${SILENCE[shown.code]}`,
    ...exampleLines(shown),
    `## What helps\n\n${repair}`,
  ];
  writeFileSync(join(root, `docs/findings/${shown.code}.md`), `${lines.join('\n\n')}\n`);
}

const findings = Object.entries(QUESTIONS).map(([question, heading]) => {
  const codes = Object.entries(CATALOGUE).filter(([, entry]) => entry.question === question);
  const pages = codes.map(
    ([code, { name, what, repair }]) =>
      `### ${code} ${name}\n\n${what}\n\n**The usual repair:** ${repair} [More](findings/${code}.md)\n`,
  );
  return `## ${heading}\n\n${pages.join('\n')}`;
});
writeFileSync(
  join(root, 'docs/findings.md'),
  `# Findings\n\nMade by \`npm run reference\` from the catalogue in the code. A finding is **proved** (no inputs can make it otherwise: on any course, or, where it names courses, in any run from their spawns), **witnessed** (it happened in a run, shown with the tape) or **suspected**.\n\n${findings.join('\n')}`,
);
