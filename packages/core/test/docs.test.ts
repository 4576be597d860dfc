import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { dimensionName, FACTS, FACTS_OF, FUNCTIONS, UNIT_NAMES, VERBS } from '@glenmark/core';

const doc = (name: string): string => readFileSync(new URL(`../../../docs/${name}`, import.meta.url), 'utf8');

describe('the documents say what the code says', () => {
  const notation = doc('notation.md');

  it.each(Object.entries(FACTS))('the fact %s', (name, { dimension, help }) => {
    expect(notation).toContain(`| \`${name}\` | ${dimensionName(dimension)} | ${help} |`);
  });

  it.each(Object.entries(FACTS_OF))('the fact %s of a thing', (name, { of, dimension, help }) => {
    expect(notation).toContain(`| \`${name}(${of})\` | ${dimensionName(dimension)} | ${help} |`);
  });

  it('every function, unit and effect', () => {
    for (const name of Object.keys(FUNCTIONS)) expect(notation).toContain(`\`${name}(`);
    for (const unit of UNIT_NAMES) expect(notation).toContain(unit);
    const format = doc('format.md');
    for (const verb of Object.keys(VERBS)) expect(format).toContain(`\`${verb} `);
  });
});
