import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import fc from 'fast-check';
import { validateXML } from 'xmllint-wasm';
import { describe, expect, it } from 'vitest';
import { readScxml, scxmlOf } from '@glenmark/core/charts';
import { readMoveset } from '@glenmark/core/machine';
import { type MovesetFile, readFile } from '@glenmark/core/model';
import { randomCase } from '../random-moveset.js';
import { sample } from '../helpers.js';

const EXAMPLES = fileURLToPath(new URL('../../../../examples/', import.meta.url));
const SCHEMA = readFileSync(new URL('scxml.xsd', import.meta.url), 'utf8');

const fileOf = (text: string): MovesetFile => readFile('moveset', text).file!;

/** What the schema of the recommendation says against some charts. */
async function faultsIn(charts: readonly string[]): Promise<string[]> {
  const { errors } = await validateXML({
    xml: charts.map((contents, i) => ({ fileName: `${i}.scxml`, contents })),
    schema: [SCHEMA],
    initialMemoryPages: 512,
    maxMemoryPages: 4096,
  });
  return errors.map((e) => e.rawMessage);
}

const samples = ['', 'mechanics', 'kits'].flatMap((folder) =>
  readdirSync(join(EXAMPLES, folder))
    .filter((file) => file.endsWith('.yaml'))
    .map((file) => [join(folder, file), readFileSync(join(EXAMPLES, folder, file), 'utf8')] as const)
    .filter(([, text]) => readFile('moveset', text).file !== undefined),
);

describe('a moveset as a chart, read again', () => {
  it.each(samples)('%s is the same moveset', (_, text) => {
    const { file, text: yaml, notCarried, diagnostics } = readScxml(scxmlOf(fileOf(text)));
    expect({ notCarried, diagnostics }).toEqual({ notCarried: [], diagnostics: [] });
    expect(file).toEqual(fileOf(text));
    expect(fileOf(yaml!)).toEqual(fileOf(text));
    // The order of states and crossings is part of the meaning.
    expect(JSON.stringify(Object.keys(fileOf(yaml!).lanes[0]!.states))).toBe(
      JSON.stringify(Object.keys(fileOf(text).lanes[0]!.states)),
    );
  });

  it(
    'is the same moveset for random ones, and a chart by the schema of the recommendation',
    { timeout: 300_000 },
    async () => {
      const seed = Math.floor(Math.random() * 2 ** 31);
      const files = fc.sample(randomCase, { numRuns: 300, seed }).map(({ moveset }) => fileOf(moveset));
      for (const file of files) expect(readScxml(scxmlOf(file)).file, `seed ${seed}`).toEqual(file);
      expect(
        await faultsIn([...files.slice(0, 60), ...samples.map(([, text]) => fileOf(text))].map(scxmlOf)),
      ).toEqual([]);
    },
  );

  it('would not be a chart with a word that the recommendation does not have', async () => {
    const wrong = scxmlOf(fileOf(sample('courier.yaml')))
      .replace('<onexit>', '<onleave>')
      .replace('</onexit>', '</onleave>');
    expect(await faultsIn([wrong])).toEqual([expect.stringContaining('onleave')]);
  });

  it('keeps every text as it is: line ends, quotes, angles, spaces', () => {
    const texts = fc.string({
      minLength: 1,
      maxLength: 20,
      unit: fc.constantFrom('a', ' ', '\n', '\t', '"', "'", '<', '&', ']]>', 'é', '→'),
    });
    fc.assert(
      fc.property(texts, texts, texts, (when, effect, note) => {
        const file = fileOf(sample('courier.yaml'));
        const [lane] = file.lanes;
        lane!.crossings![0] = { ...lane!.crossings![0]!, when, do: [effect, `vy := ${effect}`], note };
        lane!.states['Trot'] = { ...lane!.states['Trot']!, note, enter: effect };
        expect(readScxml(scxmlOf(file)).file).toEqual(file);
      }),
    );
  });
});

/** A chart that others made. */
const chart = (body: string, attributes = ''): string =>
  `<scxml xmlns="http://www.w3.org/2005/07/scxml" version="1.0" name="Gate"${attributes}>\n${body}\n</scxml>`;

const carried = (body: string, attributes?: string) => {
  const read = readScxml(chart(body, attributes));
  const { machine, diagnostics } = readMoveset(read.text!);
  return {
    ...read,
    machine,
    faults: diagnostics.map((d) => d.message),
    lost: read.notCarried.map((n) => `${n.line}: ${n.message}`),
  };
};

describe('a chart that others made', () => {
  it('comes with its states, hierarchy, transitions and history', () => {
    const { machine, faults, lost, file } = carried(
      `<state id="shut"><transition event="knock" target="ajar.back"/></state>
<state id="ajar" initial="wide">
  <history id="ajar.back" type="deep"><transition target="wide"/></history>
  <state id="narrow"/>
  <state id="wide"><transition cond="In('ajar')" target="narrow"/></state>
  <transition event="push" target="shut"><raise event="bang"/></transition>
</state>
<final id="gone"/>`,
      ' initial="shut"',
    );
    expect(faults).toEqual([]);
    expect(machine!.states.map((s) => s.name)).toEqual(['shut', 'ajar', 'narrow', 'wide', 'gone']);
    expect(file).toMatchObject({
      name: 'Gate',
      controls: { knock: { button: [] }, push: { button: [] } },
      lanes: [
        {
          name: 'main',
          initial: 'shut',
          states: { ajar: { initial: 'wide', resume: 'last' }, gone: { final: true } },
          crossings: [
            { from: 'shut', to: 'ajar', when: 'pressed(knock)' },
            { from: 'wide', to: 'narrow', when: 'in(ajar)' },
            { from: 'ajar', to: 'shut', when: 'pressed(push)', do: ['raise bang'] },
          ],
        },
      ],
    });
    expect(lost).toEqual([
      '1: nothing in the chart raises knock, push: such events came over as buttons without keys',
      '1: a chart has no body: it came over with one stance of 0.7 m by 1.7 m',
    ]);
  });

  it('comes with the regions of a parallel as lanes, and events between them', () => {
    const { machine, faults, lost } = carried(`<parallel id="all">
  <state id="bell"><state id="quiet"><transition event="pull" target="loud"/></state><state id="loud"><onentry><raise event="ring"/></onentry></state></state>
  <state id="dog"><state id="asleep"><transition event="ring" target="awake"/><transition target="loud"/></state><state id="awake"/></state>
</parallel>`);
    expect(faults).toEqual([]);
    expect(machine!.lanes.map((l) => l.name)).toEqual(['bell', 'dog']);
    expect(machine!.events).toEqual(['ring']);
    expect(machine!.lanes[1]!.crossings).toHaveLength(1);
    expect(lost[2]).toBe(
      "4: a transition to 'loud', which is in another region or nowhere, did not come over",
    );
  });

  it.each([
    [
      'a condition in another language',
      '<state id="a"><transition cond="_event.data &gt; 3" target="b"/></state><state id="b"/>',
      "2: the condition '_event.data > 3' is none of ours: it became a note, and the crossing is closed",
    ],
    [
      'an event of the machine itself',
      '<state id="a"><transition event="done.state.b" target="b"/></state><state id="b"/>',
      '2: the event done.state.b has no counterpart here: the crossing is closed',
    ],
    [
      'a script',
      '<state id="a"><onentry><script>x = 1</script></onentry></state>',
      "2: 'script' has no counterpart here",
    ],
    [
      'a datamodel',
      '<datamodel><data id="x"/></datamodel><state id="a"/>',
      "2: 'datamodel' of the chart has no counterpart here",
    ],
    ['a call', '<state id="a"><invoke src="x"/></state>', "2: 'invoke' has no counterpart here"],
    [
      'a name that is none',
      '<state id="half-open"/>',
      "1: 'half-open' is no name here: it came over as 'half_open'",
    ],
    [
      'a transition to nowhere',
      '<state id="a"><transition event="e"/></state>',
      '2: a transition without a target did not come over',
    ],
    [
      'several targets',
      '<state id="a"><transition target="b a"/></state><state id="b"/>',
      "2: of the targets b, a only 'b' came over",
    ],
    [
      'a parallel within',
      '<state id="a"/><parallel id="p"><state id="x"/><state id="y"/></parallel>',
      '2: a parallel within a region came over as a group: its regions do not run side by side',
    ],
    [
      'a shallow history',
      '<state id="a"><history id="h"><transition target="b"/></history><state id="b"/></state>',
      '2: a shallow history came over as one that goes back to the last state, however deep',
    ],
    [
      'what editors add',
      '<state id="a"><e:place xmlns:e="urn:e" x="1"/></state>',
      '2: 1 element of other namespaces did not come over',
    ],
  ])('tells of %s by its line, and still loads', (_, body, message) => {
    const { lost, faults } = carried(body);
    expect(faults).toEqual([]);
    expect(lost).toContain(message);
  });

  it('keeps a closed condition as a note', () => {
    const { file, machine } = carried(
      '<state id="a"><transition event="go" cond="x == 1" target="b"/></state><state id="b"/>',
    );
    expect(file).toMatchObject({
      lanes: [{ crossings: [{ when: 'false', note: 'event: go; cond: x == 1' }] }],
    });
    expect(machine).toBeDefined();
  });

  it('in our notation has its conditions as they are', () => {
    const { file, faults } = carried(
      '<state id="a"><transition cond="vy &lt;= 0 m/s" target="b"/></state><state id="b"/>',
      ' datamodel="glenmark"',
    );
    expect(faults).toEqual([]);
    expect(file).toMatchObject({ lanes: [{ crossings: [{ when: 'vy <= 0 m/s' }] }] });
  });
});

describe('what is no chart', () => {
  const deep = (count: number): string => '<state>'.repeat(count) + '</state>'.repeat(count);
  it.each([
    ['broken', '<scxml><state></scxml>', /^1:\d+ found what is no XML: unexpected close tag/],
    ['no XML', 'kind: moveset', /^1:\d+ found what is no XML/],
    ['empty', '', /^1:\d+ found what is no XML/],
    [
      'another document',
      '<svg xmlns="http://www.w3.org/2000/svg"/>',
      /^1:1 found the element 'svg', expected 'scxml'/,
    ],
    [
      'made of entities that expand',
      '<!DOCTYPE s [<!ENTITY a "ha"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;">]>\n<scxml>&b;</scxml>',
      /^1:\d+ found a document type, expected a chart without one/,
    ],
    ['read from elsewhere', '<!DOCTYPE s SYSTEM "file:///etc/passwd">\n<scxml/>', /found a document type/],
    ['nested deeply', chart(deep(5000)), /found elements nested deeper than 100/],
    ['long', `<scxml>${'x'.repeat(20_000_000)}</scxml>`, /found 20000015 bytes, expected at most 2000000/],
    ['of too many elements', chart('<state/>'.repeat(150_000)), /found more than 100000 elements/],
  ])('is refused when it is %s', (_, text, message) => {
    const { file, diagnostics } = readScxml(text);
    expect(file).toBeUndefined();
    expect(diagnostics.map((d) => `${d.line}:${d.column} ${d.message}`)[0]).toMatch(message);
  });
});
