// `npm run reference`: writes what the documents take from the code: the JSON Schemas and the tables of facts.
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { dimensionName, FACTS, FACTS_OF, jsonSchema, KINDS } from '../packages/core/dist/index.js';
import { root } from './build.mjs';

mkdirSync(join(root, 'docs/schema'), { recursive: true });
for (const kind of KINDS) {
  writeFileSync(
    join(root, `docs/schema/${kind}.schema.json`),
    `${JSON.stringify(jsonSchema(kind), null, 2)}\n`,
  );
}

const table = (rows) =>
  ['| fact | is | meaning |', '|---|---|---|', ...rows.map((row) => `| ${row.join(' | ')} |`)].join('\n');
const facts = table(
  Object.entries(FACTS).map(([name, { dimension, help }]) => [`\`${name}\``, dimensionName(dimension), help]),
);
const factsOf = table(
  Object.entries(FACTS_OF).map(([name, { of, dimension, help }]) => [
    `\`${name}(${of})\``,
    dimensionName(dimension),
    help,
  ]),
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
