import { type Diagnostic, fragmentText } from '../../model/index.js';
import { chartNames } from './names.js';
import { type Node, parseXml } from './parse.js';
import { type Carried, isChart, laneOf } from './read-lane.js';
import { mapOf, own } from './read-values.js';
import { OURS, SCXML } from './values.js';

/** Something of a chart that did not come over as it was, and where it stands. */
export interface NotCarried {
  line: number;
  message: string;
}

/** A chart as a moveset. */
export interface ReadChart {
  /** The moveset as YAML; undefined when the text is no chart, which the diagnostics tell. */
  text?: string;
  /** What the file says, as data. */
  file?: Record<string, unknown>;
  notCarried: NotCarried[];
  diagnostics: Diagnostic[];
}

/**
 * Reads a chart in SCXML (W3C) as a moveset. One that was written from a moveset gives that again. Of one that others
 * made come states, hierarchy, transitions, events and history; conditions in another language become notes, and their
 * crossings are closed. All that did not come over is listed with its line.
 */
export function readScxml(text: string): ReadChart {
  const { root, diagnostics } = parseXml(text);
  if (root === undefined) return { notCarried: [], diagnostics };
  if (root.name !== 'scxml' || (root.uri !== SCXML && root.uri !== '')) {
    const message = `found the element '${root.name}', expected 'scxml' of the namespace ${SCXML}`;
    return {
      notCarried: [],
      diagnostics: [{ severity: 'error', message, path: [], line: root.line, column: root.column }],
    };
  }
  const moveset = root.children.find((c) => c.uri === OURS && c.name === 'moveset');
  return moveset === undefined ? readForeign(root) : readOwn(root, mapOf(moveset));
}

/** The regions of a chart: those of the `parallel` around everything, or the chart itself. */
function regionsOf(root: Node): { regions: Node[]; isWhole: boolean } {
  const states = root.children.filter((c) => STATES.has(c.name));
  const [only, ...others] = states;
  return only?.name === 'parallel' && others.length === 0
    ? { regions: only.children.filter((c) => STATES.has(c.name)), isWhole: false }
    : { regions: [root], isWhole: true };
}

const STATES = new Set(['state', 'parallel', 'final']);

function readOwn(root: Node, moveset: Record<string, unknown>): ReadChart {
  const notCarried: NotCarried[] = [];
  const carried: Carried = {
    note: (node, message) => void notCarried.push({ line: node.line, message }),
    names: { of: (id) => id, changed: () => [] },
    isOurs: true,
    isExact: true,
    raised: new Set(),
    buttons: new Set(),
  };
  const lanes = regionsOf(root).regions.map((region) => laneOf(carried, region, own(region, 'lane') ?? ''));
  return finished({ ...moveset, lanes }, notCarried);
}

/** What a chart that others made stands on here: a body, and a button for each event that nothing in it raises. */
function readForeign(root: Node): ReadChart {
  const notCarried: NotCarried[] = [];
  const note = (node: Node, message: string): void => void notCarried.push({ line: node.line, message });
  const raised = new Set<string>();
  const see = (node: Node): void => {
    const event = node.name === 'raise' ? node.attributes.get('event') : undefined;
    if (event !== undefined) raised.add(event);
    node.children.forEach(see);
  };
  see(root);
  const isOurs = root.attributes.get('datamodel') === 'glenmark';
  const carried: Carried = { note, names: chartNames(), isOurs, isExact: false, raised, buttons: new Set() };
  const { regions, isWhole } = regionsOf(root);
  const laneNames = chartNames();
  const lanes = regions.map((region, i) =>
    laneOf(carried, region, laneNames.of(isWhole ? 'main' : (region.attributes.get('id') ?? `lane${i + 1}`))),
  );
  for (const child of root.children)
    if (isChart(child) && !STATES.has(child.name))
      note(child, `'${child.name}' of the chart has no counterpart here`);
  noteOthers(root, note);
  for (const { id, name } of [...carried.names.changed(), ...laneNames.changed()])
    note(root, `'${id}' is no name here: it came over as '${name}'`);
  const buttons = [...carried.buttons];
  if (buttons.length > 0)
    note(
      root,
      `nothing in the chart raises ${buttons.join(', ')}: such events came over as buttons without keys`,
    );
  note(root, `a chart has no body: it came over with one stance of 0.7 m by 1.7 m`);
  return finished(
    {
      glenmark: 1,
      kind: 'moveset',
      name: root.attributes.get('name') ?? 'Chart',
      ...(buttons.length === 0
        ? {}
        : { controls: Object.fromEntries(buttons.map((name) => [name, { button: [] }])) }),
      body: { stances: { whole: { shape: 'capsule', width: '0.7 m', height: '1.7 m' } } },
      lanes,
    },
    notCarried,
  );
}

/** Elements of other namespaces, such as the layouts of editors: told once, where the first of them is. */
function noteOthers(root: Node, note: (node: Node, message: string) => void): void {
  const others: Node[] = [];
  const see = (node: Node): void => {
    if (isChart(node)) node.children.forEach(see);
    else if (node.uri !== OURS) others.push(node);
  };
  see(root);
  const [first] = others;
  if (first !== undefined)
    note(
      first,
      `${others.length} element${others.length === 1 ? '' : 's'} of other namespaces did not come over`,
    );
}

const finished = (file: Record<string, unknown>, notCarried: NotCarried[]): ReadChart => ({
  text: fragmentText(file),
  file,
  notCarried: notCarried.sort((a, b) => a.line - b.line),
  diagnostics: [],
});
