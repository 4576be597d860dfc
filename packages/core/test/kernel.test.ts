import { spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import fc from 'fast-check';
import { afterEach, describe, expect, it, vi } from 'vitest';
import {
  type BodyShape,
  buildWorld,
  carryBody,
  castShape,
  contactList,
  contactsAt,
  type Course,
  dropThrough,
  fits,
  isTouching,
  moveBody,
  placeMovers,
  type Part,
  readCourse,
  slideBody,
  sortContacts,
  sweep,
  type World,
  zonesAt,
} from '@glenmark/core/world';

const part = (shape: Part['shape'], width: number, height: number, ox = 0): Part => ({
  name: shape,
  shape,
  width,
  height,
  ox,
  oy: 0,
});
const STANCES: BodyShape[] = [
  { name: 'tall', parts: [part('capsule', 0.7, 1.7)] },
  { name: 'crate', parts: [part('box', 0.6, 0.8)] },
  { name: 'packed', parts: [part('box', 0.5, 1), part('capsule', 0.4, 0.6, -0.3)] },
];

const place = fc.integer({ min: -40, max: 40 }).map((n) => n / 4);
const box = fc
  .tuple(place, place, fc.integer({ min: 1, max: 24 }), fc.integer({ min: 1, max: 24 }))
  .map(([x, y, w, h]) => `[[${x} m, ${y} m], [${x + w / 4} m, ${y + h / 4} m]]`);
const solid = fc.oneof(
  box.map((b) => `{ box: ${b} }`),
  box.map((b) => `{ box: ${b}, tag: moss }`),
  fc
    .tuple(place, place, fc.integer({ min: 1, max: 16 }), fc.integer({ min: 1, max: 16 }))
    .map(
      ([x, y, w, h]) => `{ points: [[${x} m, ${y} m], [${x + w / 2} m, ${y} m], [${x} m, ${y + h / 4} m]] }`,
    ),
);
const plank = fc
  .tuple(place, place, fc.integer({ min: 1, max: 12 }))
  .map(([x, y, length]) => `{ from: [${x} m, ${y} m], to: [${x + length / 2} m, ${y} m] }`);

const course = fc
  .tuple(
    fc.array(solid, { minLength: 1, maxLength: 10 }),
    fc.array(plank, { maxLength: 3 }),
    fc.array(box, { maxLength: 2 }),
    fc.array(box, { maxLength: 3 }),
  )
  .map(([solids, planks, movers, zones]): Course => {
    const list = (name: string, items: readonly string[]): string =>
      items.length === 0 ? '' : `${name}:\n${items.map((item) => `  - ${item}\n`).join('')}`;
    const text = [
      'glenmark: 1\nkind: course\nname: Random\n',
      list('solids', solids),
      list('oneWays', planks),
      list(
        'movers',
        movers.map((b) => `{ box: ${b}, path: [[0 m, 0 m], [3 m, 1 m]], period: 2 s }`),
      ),
      list(
        'zones',
        zones.map((b) => `{ box: ${b}, tag: damp }`),
      ),
      'spawns: { start: { at: [0 m, 0 m] } }\n',
    ].join('');
    const { course: built, diagnostics } = readCourse(text);
    // The spawn may lie in a solid: for this the course is right all the same.
    if (built === undefined) throw new Error(diagnostics.map((d) => `${d.line}: ${d.message}`).join('\n'));
    return built;
  });

/** What is asked of a world, in a row: answers of one world are those of another, to the last bit. */
const question = fc.record({
  kind: fc.constantFrom(
    'sweep',
    'fits',
    'contacts',
    'zones',
    'cast',
    'touching',
    'sorted',
    'move',
    'slide',
    'carry',
    'drop',
  ),
  stance: fc.nat(2),
  x: fc.double({ min: -11, max: 11, noNaN: true }),
  y: fc.double({ min: -11, max: 11, noNaN: true }),
  dx: fc.double({ min: -3, max: 3, noNaN: true }),
  dy: fc.double({ min: -3, max: 3, noNaN: true }),
  solid: fc.nat(12),
  turn: fc.constantFrom(-1, 0.9),
  stands: fc.boolean(),
});
type Question = typeof question extends fc.Arbitrary<infer Q> ? Q : never;

function answer(world: World, q: Question, time: number): unknown {
  const { stance, x, y, dx, dy } = q;
  const body = { x, y, vx: 10 * dx, vy: 10 * dy };
  const rule = { walkable: 0.7, snap: 0.2, turn: q.turn, step: 0.3 };
  const of = Math.min(q.solid, world.course.solids.length - 1);
  switch (q.kind) {
    case 'sweep':
      return { ...sweep(world, stance, x, y, dx, dy, q.stands ? of : -1) };
    case 'fits':
      return fits(world, stance, x, y);
    case 'contacts':
      return contactList(contactsAt(world, stance, x, y));
    case 'zones': {
      const into: number[] = [];
      return [zonesAt(world, stance, x, y, into), into];
    }
    case 'cast':
      return { ...castShape(world, 0, q.stands ? ['moss'] : undefined, x, y, dx, dy, 4) };
    case 'touching':
      return isTouching(world, stance, { x, y }, of);
    case 'sorted':
      return [
        { ...sortContacts(world, stance, body, 0.7, q.stands) },
        contactList(world.contacts),
        world.contacts.minDistance,
      ];
    case 'move':
      moveBody(world, stance, body, q.stands ? { nx: 0.28, ny: 0.96 } : undefined, rule, 1 / 60);
      return body;
    case 'slide':
      slideBody(world, stance, body, 1 / 60);
      return body;
    case 'carry':
      carryBody(world, stance, body, q.stands ? of : -1, time);
      return [body, Array.from(world.offsets)];
    case 'drop':
      dropThrough(world, world.course.solids[of]!.oneWay ? [of] : []);
      return undefined;
  }
}

describe('the world kernel', () => {
  it('is what its source compiles to', { timeout: 120_000 }, () => {
    const script = fileURLToPath(new URL('../../../scripts/kernel.mjs', import.meta.url));
    const { status, stderr } = spawnSync(process.execPath, [script, '--check'], { encoding: 'utf8' });
    expect(stderr).toBe('');
    expect(status).toBe(0);
  });

  it('answers as the plain geometry does, to the last bit', { timeout: 120_000 }, () => {
    fc.assert(
      fc.property(course, fc.array(question, { minLength: 20, maxLength: 60 }), (built, questions) => {
        fc.pre(built !== undefined);
        const [kernel, plain] = [false, true].map((p) => buildWorld(built!, STANCES, [], { plain: p })) as [
          World,
          World,
        ];
        expect(kernel.geometry.constructor).toBe(plain.geometry.constructor);
        for (const [i, q] of questions.entries()) {
          if (i % 7 === 0) for (const world of [kernel, plain]) placeMovers(world, i / 20);
          expect([q, answer(kernel, q, (i + 1) / 20)]).toEqual([q, answer(plain, q, (i + 1) / 20)]);
        }
      }),
      { numRuns: 400, endOnFailure: true },
    );
  });
});

describe('where no WebAssembly may run', () => {
  afterEach(() => vi.unstubAllGlobals());

  it('the plain geometry stands in', async () => {
    const refused = (): never => {
      throw new Error('refused by a content security policy');
    };
    vi.stubGlobal('WebAssembly', { Module: refused });
    vi.resetModules();
    const world = await import('../src/world/index.js');
    const { course: built } = world.readCourse(
      'glenmark: 1\nkind: course\nname: Floor\nsolids: [{ box: [[-9 m, -1 m], [9 m, 0 m]] }]\nspawns: { start: { at: [0 m, 0 m] } }\n',
    );
    const floor = world.buildWorld(built!, STANCES);
    expect(world.contactList(world.contactsAt(floor, 0, 0, 0))).toEqual([
      { nx: 0, ny: 1, distance: 0, solid: 0 },
    ]);
    // Its lists are its own, not views of a kernel's memory.
    expect(Array.isArray(floor.contacts.nx)).toBe(true);
  });
});
