import { readdirSync } from 'node:fs';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { describe, expect, it } from 'vitest';
import { CATALOGUE, findAll, findingJsonSchema } from '@glenmark/core/findings';
import { jsonSchema, KINDS, type Kind, kindOf, readFile } from '@glenmark/core/model';
import { readTape, runTape } from '@glenmark/core/run';
import { readCourse } from '@glenmark/core/world';
import { machineOf, sample } from './helpers.js';

const folder = new URL('../../../examples/mechanics/', import.meta.url);
const names = readdirSync(folder)
  .filter((f) => f.endsWith('.tape.yaml'))
  .map((f) => f.replace('.tape.yaml', ''));
const courseNamed = (name: string) => readCourse(sample(`mechanics/${name}.yaml`)).course!;

describe('the mechanics gallery', () => {
  it.each(names)('%s does what it says, and has no finding', (name) => {
    const machine = machineOf(sample(`mechanics/${name}.yaml`));
    const { tape } = readTape(sample(`mechanics/${name}.tape.yaml`));
    const course = courseNamed(tape!.course);
    const { session, diagnostics } = runTape(machine, course, tape!);
    expect(diagnostics).toEqual([]);
    expect(session!.expectations.filter((e) => !e.passed)).toEqual([]);
    expect(session!.expectations.length).toBeGreaterThan(2);
    expect(findAll(machine, [{ tape: tape!, course }])).toEqual([]);
  });

  it('lists every mechanic in its index', () => {
    const index = sample('mechanics/README.md');
    for (const name of names) expect(index).toContain(`[${name}](${name}.yaml)`);
    expect(index.match(/^\| \[/gm)).toHaveLength(names.length);
  });
});

describe('the published schemas', () => {
  const files = ['', 'mechanics/'].flatMap((sub) =>
    readdirSync(new URL(`../../../examples/${sub}`, import.meta.url))
      .filter((f) => f.endsWith('.yaml'))
      .map((f) => sub + f),
  );
  const ajv = new Ajv2020({ strict: false });
  const validate = Object.fromEntries(KINDS.map((kind) => [kind, ajv.compile(jsonSchema(kind))]));

  it.each(KINDS.map((k) => [k]))('the checked-in schema of a %s is the one the code makes', (kind) => {
    expect(JSON.parse(sample(`../docs/schema/${kind}.schema.json`))).toEqual(
      JSON.parse(JSON.stringify(jsonSchema(kind as Kind))),
    );
  });

  it('the checked-in schema of a finding is the one the code makes, and findings are valid by it', () => {
    const schema = findingJsonSchema();
    expect(JSON.parse(sample('../docs/schema/finding.schema.json'))).toEqual(
      JSON.parse(JSON.stringify(schema)),
    );
    expect(
      Object.keys(CATALOGUE).filter((code) => !JSON.stringify(schema).includes(`"const":"${code}"`)),
    ).toEqual([]);
    const isFinding = ajv.compile(schema);
    const findings = findAll(machineOf(sample('courier-draft.yaml')), []);
    expect(findings.length).toBeGreaterThan(10);
    for (const finding of findings) {
      const told: unknown = JSON.parse(JSON.stringify(finding));
      expect(isFinding(told), `${finding.code}: ${ajv.errorsText(isFinding.errors)}`).toBe(true);
      expect(isFinding({ ...(told as object), evidence: { odd: true } })).toBe(false);
    }
  });

  it.each(files)('%s is valid by the schema of its kind', (file) => {
    const text = sample(file);
    const kind = kindOf(text)!;
    const { file: data } = readFile(kind, text);
    expect(validate[kind]!(data), JSON.stringify(validate[kind]!.errors)).toBe(true);
  });

  it('refuses an unknown key', () => {
    expect(
      validate['course']!({ glenmark: 1, kind: 'course', name: 'C', solids: [], spawns: {}, slids: [] }),
    ).toBe(false);
  });
});
