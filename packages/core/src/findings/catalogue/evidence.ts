import * as z from 'zod';

/**
 * What establishes a finding, as plain data: one shape for each code. Sentences, fingerprints, repairs and drawings are
 * made from it; nothing reads a sentence back.
 */

const name = z.string();
const count = z.number().int().min(0);
const text = z.string();

/** A crossing as findings name it; `index` counts the lane's crossings from 0. */
export const crossingPlaceSchema = z.strictObject({ from: text, to: name, index: count });

/** How far the body rises above what it last stood on (m), at up to a speed sideways (m/s). */
const riseSchema = z.strictObject({ height: z.number(), sideways: z.number() });

/**
 * A fact that no run can change: nothing binds a control, starts a timer or lets it
 * run, sets or clears a flag, gives back a count.
 */
const constantSchema = z.strictObject({
  kind: z.enum([
    'unbound',
    'neverStarted',
    'neverRuns',
    'neverSet',
    'neverCleared',
    'neverGivenBack',
    'noZone',
    'noSolid',
    'noAnchor',
    'neverUnlocked',
    'walledOff',
    'tooHigh',
    'noRoom',
  ]),
  name,
  courses: z.array(name).optional().describe('the courses on which it is so, when it is not so on all'),
  rise: riseSchema.optional(),
});

const thing = {
  kind: z.enum(['leaf', 'flag', 'count', 'number', 'timer', 'charges', 'lock', 'event']),
  name,
};

/**
 * A value of something discrete; `state` names that of a lane, `orMore` says that it stands for all above, too; a number
 * is `between` two others, or the one that both are.
 */
const thingValueSchema = z.strictObject({
  ...thing,
  value: count,
  state: name.optional(),
  orMore: z.boolean().optional(),
  between: z.tuple([text.nullable(), text.nullable()]).optional(),
});

/** All values that something discrete ever has where it matters. */
const takenSchema = z.strictObject({ ...thing, values: z.array(thingValueSchema) });

/** Who writes something discrete: an effect of a state, or a crossing. */
const writerSchema = z.strictObject({
  how: z.enum(['entering', 'leaving', 'every tick in', 'crossing']),
  state: name.describe('for a crossing the one that it leads to'),
  from: text.optional(),
});
const writersSchema = z.strictObject({
  ...thing,
  by: z.array(writerSchema),
  fromExit: z
    .boolean()
    .optional()
    .describe('a cooldown that recharges only once the state that spent it is left'),
});

/** Between how much and how much something that counts time is (seconds); null where it has no bound. */
const clockRangeSchema = z.strictObject({
  name: text,
  least: z.number().nullable(),
  most: z.number().nullable(),
});

/** Another crossing that comes first. */
const winnerSchema = z.strictObject({ from: text, to: name, rank: z.number().int(), when: text.nullable() });

const hindranceSchema = z.discriminatedUnion('kind', [
  z
    .strictObject({ kind: z.literal('shut'), terms: z.array(text), constants: z.array(constantSchema) })
    .describe('terms that exclude each other, or what never changes'),
  z
    .strictObject({ kind: z.literal('overshadowed'), winners: z.array(winnerSchema) })
    .describe('whenever it is open, one of these is too, and comes first'),
  z
    .strictObject({
      kind: z.literal('blocked'),
      terms: z.array(text),
      taken: z.array(takenSchema),
      writers: z.array(writersSchema),
      clocks: z.array(clockRangeSchema).describe('what clocks show there, where that decides'),
    })
    .describe('terms that ask for values which things never have there'),
]);

/** A crossing that cannot be taken, and why; `state` is the one from which that was asked. */
const closedWaySchema = z.strictObject({
  crossing: crossingPlaceSchema,
  rank: z.number().int(),
  state: name,
  hindrance: hindranceSchema,
});
const ways = z.array(closedWaySchema);

/** A place of a course, and how far the search from there went. */
const searchedSchema = z.strictObject({
  x: z.number(),
  y: z.number(),
  course: text,
  ticks: count,
  situations: count,
});
const exits = z.array(z.strictObject({ to: name, when: text.nullable() }));

/** One of two writes of a channel in one tick: who, of which lane, and what. */
const writeSchema = z.strictObject({ by: text, state: name, lane: name, value: text });

const declared = z.strictObject({ kind: text, name });

/** The evidence of each code. */
export const EVIDENCE = {
  IN1: z.strictObject({
    ring: z.array(name).describe('states that lead only to each other; empty when no crossing leads in'),
  }),
  IN2: z.strictObject({
    ways,
    also: z.array(name).describe('states that only this one leads to'),
    waits: z
      .array(z.strictObject({ state: name, lane: name, asks: text }))
      .describe('states of several lanes that wait for each other, this one first; empty for others'),
  }),
  IN3: z.strictObject({ ways }),
  IN4: z.strictObject({
    guard: text.describe('of the crossing; empty for a state'),
    situations: count,
    courses: z.array(text),
    approaches: z.array(
      z.strictObject({
        from: text,
        to: name,
        nearest: z
          .strictObject({ ticks: count, start: text, missing: z.array(text) })
          .nullable()
          .describe('null when the states that it leaves were never entered'),
      }),
    ),
  }),
  IN5: z.strictObject({ guard: text, ways }),
  IN6: z.strictObject({
    zone: text.describe('its name'),
    ability: name,
    course: text,
    searched: z
      .strictObject({
        situations: count,
        nearest: z.number().describe('from the feet to the zone, in metres'),
      })
      .nullable()
      .describe('null when it is proved that no way through the solids leads there'),
  }),
  OUT1: z.strictObject({}),
  OUT2: z.strictObject({ ways }),
  OUT3: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('while'), values: z.array(thingValueSchema), ways }),
    z.strictObject({ kind: z.literal('place'), at: searchedSchema, exits }),
  ]),
  OUT4: z.discriminatedUnion('kind', [
    z.strictObject({
      kind: z.literal('home'),
      homes: z.array(name),
      lost: z.array(name),
      values: z.array(thingValueSchema).describe('what it is lost by; empty when the states alone do'),
    }),
    z.strictObject({
      kind: z.literal('control'),
      control: name,
      listeners: z.array(name),
      values: z.array(thingValueSchema),
    }),
  ]),
  OUT5: z.strictObject({
    thing: name,
    start: thingValueSchema,
    end: thingValueSchema.describe('the value with which the crossing is closed for good'),
    uses: count.nullable().describe('how often it can be taken before; null when others write it'),
    to: name,
    writers: writersSchema,
  }),
  OUT6: z.strictObject({ stance: name, at: searchedSchema, exits }),
  AG1: z.strictObject({
    crossings: z.array(z.strictObject({ index: count, to: name, when: text.nullable() })),
    rank: z.number().int(),
    press: name.nullable(),
  }),
  AG2: z.strictObject({
    channel: z.enum(['vx', 'vy', 'gravity', 'facing', 'stance']),
    first: writeSchema,
    last: writeSchema,
  }),
  AG3: z.strictObject({ key: text, controls: z.tuple([name, name]), states: z.array(name) }),
  AG4: z.strictObject({
    states: z.tuple([name, name]).describe('twice the same for a state that is entered again and again'),
    ticks: count,
    held: z.array(name).describe('controls that keep a state being entered again'),
  }),
  AG5: z.strictObject({ states: z.array(name), steps: count.nullable(), asksForNothing: z.boolean() }),
  AG6: z.strictObject({ timer: name, waiting: name, left: count }),
  RK1: z.strictObject({ from: name, times: count }),
  RK2: z.strictObject({ control: name, from: name, times: count }),
  RK3: z.discriminatedUnion('kind', [
    z.strictObject({
      kind: z.literal('sameTick'),
      by: text,
      speed: z.number(),
      rise: z.number(),
      later: text.nullable(),
    }),
    z
      .strictObject({
        kind: z.literal('nextTick'),
        by: text,
        channel: z.enum(['vx', 'vy']),
        value: text,
        hold: writeSchema.describe('what is held by a lane that yields only in the tick of the launch'),
      })
      .describe(
        'another lane leaves the tick of the launch to it and holds the channel from the next one on',
      ),
  ]),
  RK4: z.strictObject({
    probe: name,
    stances: z.array(name),
    x: z.number(),
    y: z.number(),
    reach: z.number(),
  }),
  RK5: z.strictObject({
    tape: text,
    own: count,
    rate: count,
    failed: z.array(text),
  }),
  RK6: z.strictObject({ from: name, to: name, anchor: text, rise: z.number() }),
  RK7: z.strictObject({ by: name, gain: z.number() }),
  RK8: z.strictObject({ from: name, to: name, was: z.number(), is: z.number() }),
  RK9: z.strictObject({ from: name, to: name }),
  RK10: z.strictObject({ ticks: count }),
  RK11: z.strictObject({ spawn: name, course: text }),
  TD1: declared,
  TD2: declared,
  TD3: declared,
  TD4: z.strictObject({ guards: z.tuple([text, text]) }),
  TD5: z.strictObject({ term: text, by: text }),
  TD6: z.strictObject({ term: text }),
  TD7: z.strictObject({ name, side: z.enum(['below', 'above']) }),
  TD8: z.strictObject({ field: text, where: text, because: text }),
};

export type Evidence = { [K in keyof typeof EVIDENCE]: z.infer<(typeof EVIDENCE)[K]> };
export type CrossingPlace = z.infer<typeof crossingPlaceSchema>;
export type ConstantRef = z.infer<typeof constantSchema>;
export type ThingValue = z.infer<typeof thingValueSchema>;
export type TakenValues = z.infer<typeof takenSchema>;
export type ClockRange = z.infer<typeof clockRangeSchema>;
export type Writer = z.infer<typeof writerSchema>;
export type Writers = z.infer<typeof writersSchema>;
export type Hindrance = z.infer<typeof hindranceSchema>;
export type ClosedWay = z.infer<typeof closedWaySchema>;
