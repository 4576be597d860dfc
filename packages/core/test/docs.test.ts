import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { CATALOGUE } from '@glenmark/core/findings';
import { readMoveset, VERBS } from '@glenmark/core/machine';
import { jsonSchema, KINDS, LIMITS } from '@glenmark/core/model';
import {
  dimensionName,
  FACTS,
  FACTS_OF,
  FUNCTIONS,
  parseExpression,
  UNIT_NAMES,
} from '@glenmark/core/notation';
import { readTape, runTape } from '@glenmark/core/run';
import { readCourse } from '@glenmark/core/world';
import { sample as example } from './helpers.js';

const doc = (name: string): string => readFileSync(new URL(`../../../docs/${name}`, import.meta.url), 'utf8');

describe('the documents say what the code says', () => {
  const notation = doc('notation.md');

  it.each(Object.entries(FACTS))('the fact %s', (name, { dimension, help }) => {
    expect(notation).toContain(`| \`${name}\` | ${dimensionName(dimension)} | ${help} |`);
  });

  it.each(Object.entries(FACTS_OF))('the fact %s of a thing', (name, { of, also, dimension, help }) => {
    expect(notation).toContain(
      `| \`${name}(${of}${also === undefined ? '' : `, ${also}`})\` | ${dimensionName(dimension)} | ${help} |`,
    );
  });

  it('every function, unit and effect', () => {
    for (const name of Object.keys(FUNCTIONS)) expect(notation).toContain(`\`${name}(`);
    for (const unit of UNIT_NAMES) expect(notation).toContain(unit);
    const format = doc('format.md');
    for (const verb of Object.keys(VERBS)) expect(format).toContain(`\`${verb} `);
  });
});

describe('how much a document may have', () => {
  it.each(Object.entries(LIMITS))('of a %s is told for each limit', (kind, limits) => {
    const section = doc('format.md').split(`| in a ${kind} | at most |`)[1]!;
    for (const { noun, max } of limits.filter(({ noun }) => noun !== 'crossings'))
      expect(section).toContain(`| ${noun} | ${max} |`);
  });
});

describe('the worked example of a tick', () => {
  it('is what the machine does', () => {
    const { machine } = readMoveset(example('courier.yaml'));
    const { session } = runTape(
      machine!,
      readCourse(example('mill-yard.yaml')).course!,
      readTape(example('culvert-slide.yaml')).tape!,
    );
    const rows = doc('tick.md').match(/^\| \d+ \|.*$/gm)!;
    expect(rows).toHaveLength(6);
    for (const row of rows) {
      const [tick, move, tuck, state, stance, vx, x] = row
        .split('|')
        .slice(1)
        .map((cell) => cell.trim());
      const record = session!.trace.records[Number(tick)]!;
      const control = (name: string): string =>
        String(record.input[machine!.controls.findIndex((c) => c.name === name)]);
      expect([
        control('move'),
        control('tuck'),
        machine!.states[record.leaves[0]!]!.name,
        machine!.stances[record.stance]!.name,
        record.body.vx.toFixed(3),
        record.body.x.toFixed(3),
      ]).toEqual([move, tuck, state, stance, vx, x]);
    }
  });
});

describe('the field reference', () => {
  const fields = doc('fields.md');

  it('has an example for every field of every file', () => {
    expect(fields.match(/^\| `.*\|\s+\|\s+\|$/gm)).toBeNull();
    expect(fields.match(/^\| `/gm)!.length).toBeGreaterThan(150);
  });

  it('names every key that the schemas have', () => {
    const keysOf = (schema: unknown): string[] =>
      typeof schema !== 'object' || schema === null
        ? []
        : [
            ...Object.keys((schema as { properties?: object }).properties ?? {}),
            ...Object.values(schema).flatMap(keysOf),
          ];
    for (const kind of KINDS)
      for (const key of keysOf(jsonSchema(kind))) expect(fields).toMatch(new RegExp(`[.\`]${key}[\`.\\[]`));
  });

  it('shows facts by examples that check', () => {
    const { machine } = readMoveset(example('mechanics/odds-and-ends.yaml'));
    for (const [name, { example: use }] of Object.entries(FACTS))
      expect(use, name).toMatch(new RegExp(`\\b${name}\\b`));
    for (const [name, { example: use }] of Object.entries(FACTS_OF))
      expect(parseExpression(use).ok && use.includes(`${name}(NAME`), use).toBe(true);
    // Every plain example must have the right dimensions: they are compiled as guards of a real moveset.
    for (const { example: use } of Object.values(FACTS)) {
      const guard = example('mechanics/odds-and-ends.yaml').replace(
        'when: done(breath)',
        `when: ${JSON.stringify(use)}`,
      );
      expect(
        readMoveset(guard).diagnostics.filter((d) => d.severity === 'error'),
        use,
      ).toEqual([]);
    }
    expect(machine).toBeDefined();
  });
});

describe('the catalogue of findings', () => {
  it('is in the documents, word for word', () => {
    const text = doc('findings.md');
    for (const [code, { name, what, repair }] of Object.entries(CATALOGUE)) {
      expect(text).toContain(`### ${code} ${name}\n`);
      expect(text).toContain(what);
      expect(text).toContain(repair);
    }
    expect(text.match(/^### /gm)).toHaveLength(Object.keys(CATALOGUE).length);
  });
});

describe('the recipes', () => {
  const sections = doc('recipes.md').split('\n## ').slice(1);
  const inOneLine = (text: string): string => text.replace(/\s+/g, ' ');

  it('are some twenty', () => expect(sections.length).toBeGreaterThanOrEqual(20));

  it.each(sections.map((s) => [s.split('\n', 1)[0]!, s]))(
    '%s: every line stands in its example',
    (_, section) => {
      const [, name] = /examples\/mechanics\/([\w-]+)\.yaml/.exec(section)!;
      const [, lines] = /```yaml\n([\s\S]*?)\n```/.exec(section)!;
      const text = inOneLine(example(`mechanics/${name}.yaml`));
      for (const line of lines!.split('\n')) expect(text).toContain(inOneLine(line.trim()));
      const [, code] = /findings\/(\w+)\.md/.exec(section)!;
      expect(Object.keys(CATALOGUE)).toContain(code);
    },
  );
});
