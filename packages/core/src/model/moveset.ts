import type { Path } from './diagnostics.js';
import * as z from 'zod';
import { header, mapping, named, nameSchema, notationSchema, one, pointSchema } from './schema.js';

/** The shape of a moveset file. Meaning (names, dimensions, targets) is checked when it is compiled. */

const dialSchema = z.union(
  [
    notationSchema,
    mapping({
      value: notationSchema,
      min: notationSchema.optional(),
      max: notationSchema.optional(),
      step: notationSchema.optional(),
      note: z.string().optional(),
    }),
  ],
  {
    error:
      "expected a quantity such as 6 m/s, or a mapping with 'value' and perhaps 'min', 'max', 'step', 'note'",
  },
);

const keyCode = z.string().min(1);

const controlSchema = z.union(
  [
    mapping({
      aim: z.literal('pointer').describe('a direction from the body to the pointer'),
      pad: z
        .string()
        .regex(/^stick[01]$/, { error: 'expected stick0 or stick1' })
        .optional(),
      note: z.string().optional(),
    }),
    mapping({
      button: one(keyCode),
      pad: one(z.number().int().min(0)).optional(),
      note: z.string().optional(),
    }),
    mapping({
      axis: mapping({
        negative: one(keyCode).optional(),
        positive: one(keyCode).optional(),
        pad: z
          .string()
          .regex(/^axis\d+$/, { error: 'expected a pad axis such as axis0' })
          .optional(),
      }),
      note: z.string().optional(),
    }),
  ],
  {
    error:
      "expected 'button' with key codes, 'axis' with 'negative' and 'positive' key codes, or 'aim: pointer'",
  },
);

const partSchema = mapping({
  shape: z.enum(['capsule', 'box']),
  width: notationSchema,
  height: notationSchema,
  offset: pointSchema.optional().describe('from the feet to the middle of the underside of the part'),
});

const stanceSchema = z.union(
  [
    mapping({
      shape: z.enum(['capsule', 'box']),
      width: notationSchema,
      height: notationSchema,
      blend: notationSchema.optional(),
      anchor: z
        .enum(['feet', 'middle', 'head'])
        .optional()
        .describe('what stays where it is on a change into this stance'),
    }),
    mapping({
      parts: named(partSchema),
      blend: notationSchema
        .optional()
        .describe('how long a change into this stance takes; at once when left out'),
      anchor: z.enum(['feet', 'middle', 'head']).optional(),
    }),
  ],
  { error: "expected 'shape', 'width' and 'height', or 'parts' with several of them" },
);

const probeSchema = mapping({
  from: pointSchema.describe('from the feet; x is mirrored with facing'),
  toward: z
    .string()
    .describe(
      'ahead, behind, up, down, the name of an aim, or an angle such as 30 deg (mirrored with facing)',
    ),
  reach: notationSchema,
  shape: z
    .union(
      [
        mapping({ circle: notationSchema.describe('radius') }),
        mapping({ box: pointSchema.describe('width and height') }),
      ],
      {
        error: "expected 'circle' with a radius, or 'box' with a width and a height",
      },
    )
    .optional()
    .describe('what is cast; a ray when left out'),
  sees: z.array(nameSchema).min(1).optional().describe('tags of solids; everything when left out'),
});

const variableSchema = z.union(
  [
    mapping({ flag: z.boolean(), reset: notationSchema.optional() }),
    mapping({
      count: z.number().int().min(0),
      max: z.number().int().min(1),
      refill: notationSchema.optional(),
    }),
    mapping({ number: notationSchema, reset: notationSchema.optional() }),
  ],
  { error: "expected 'flag', 'count' with 'max', or 'number'" },
);

const timerSchema = mapping({
  length: notationSchema,
  runs: notationSchema.optional().describe('the clock stands still while this is false'),
  again: z.enum(['restart', 'ignore', 'extend']).optional().describe('what starting a running timer does'),
});

const cooldownSchema = mapping({
  charges: z.number().int().min(1).max(99).optional(),
  recharge: notationSchema,
  order: z.enum(['oneByOne', 'together']).optional(),
  refill: notationSchema.optional(),
  from: z.enum(['spend', 'exit']).optional().describe('when recharging starts'),
});

const tetherSchema = mapping({
  reach: notationSchema,
  aim: nameSchema
    .optional()
    .describe('the aim along which it is cast; without one it takes the nearest anchor in reach'),
  sees: z.array(nameSchema).min(1).describe('tags of the anchors, or of the surfaces, that it holds on to'),
  most: z.number().int().min(1).max(8).optional().describe('how many at once; the oldest is replaced'),
});

const effectsSchema = one(z.string());

const motionSchema = mapping({
  drive: mapping({
    to: notationSchema,
    toY: notationSchema.optional().describe('from above: the target speed in y'),
    gain: notationSchema.optional(),
    brake: notationSchema.optional(),
    turn: notationSchema.optional(),
    instant: z.boolean().optional(),
    carry: mapping({
      above: notationSchema,
      fade: notationSchema,
      slope: notationSchema.optional(),
    }).optional(),
  }).optional(),
  gravity: z
    .union(
      [
        notationSchema,
        mapping({
          rising: notationSchema.optional(),
          falling: notationSchema.optional(),
          cut: mapping({ scale: notationSchema, when: notationSchema }).optional(),
          terminal: notationSchema.optional(),
        }),
      ],
      { error: "expected a scale such as 1, or a mapping with 'rising', 'falling', 'cut', 'terminal'" },
    )
    .optional(),
  hold: mapping({ vx: notationSchema.optional(), vy: notationSchema.optional() }).optional(),
  push: mapping({
    x: notationSchema.optional(),
    y: notationSchema.optional(),
    downhill: notationSchema.optional(),
  }).optional(),
  drag: notationSchema.optional(),
  ground: mapping({
    walkable: notationSchema.optional(),
    snap: notationSchema
      .optional()
      .describe('how far the feet follow the ground down: a ledge by its height, or an edge by its angle'),
    step: notationSchema.optional().describe('how high a step the feet climb; none when left out'),
    slip: notationSchema
      .optional()
      .describe('an acceleration down what is too steep to walk, added to gravity'),
    inherit: z
      .boolean()
      .optional()
      .describe('whether who leaves a mover goes on with its speed; not when left out'),
  }).optional(),
  tether: mapping({
    reel: notationSchema.optional().describe('speed towards the centre of the anchors'),
    climb: notationSchema.optional().describe('speed up the line'),
    sideways: notationSchema
      .optional()
      .describe('how far from below the anchor: a length, or an angle from the vertical'),
  }).optional(),
  directions: z
    .union(
      [
        z.enum(['free', '8', '4']),
        z.literal(8).transform(() => '8' as const),
        z.literal(4).transform(() => '4' as const),
      ],
      {
        error: 'expected free, 8 or 4',
      },
    )
    .optional()
    .describe('from above: the ways that the drive can go'),
});

const stateShape = {
  note: z.string().optional(),
  home: z.boolean().optional(),
  final: z.boolean().optional(),
  passing: z.boolean().optional(),
  stance: nameSchema.optional(),
  ifBlocked: z.enum(['refuse', 'wait']).optional(),
  tag: z
    .union([z.string(), z.array(mapping({ tag: z.string(), until: notationSchema.optional() })).min(1)], {
      error: 'expected a tag, or a list such as [{ tag: launch, until: 0.1 s }, { tag: rise }]',
    })
    .optional()
    .describe('for the animation; a list changes with the time in the state'),
  without: one(nameSchema).optional().describe('parts of the stance that are switched off'),
  ability: nameSchema.optional(),
  motion: motionSchema.optional(),
  enter: effectsSchema.optional(),
  exit: effectsSchema.optional(),
  each: effectsSchema.optional(),
  initial: nameSchema.optional(),
  resume: z.literal('last').optional(),
};

export type StateFile = z.infer<z.ZodObject<typeof stateShape>> & { states?: Record<string, StateFile> };

const stateSchema: z.ZodType<StateFile> = mapping({
  ...stateShape,
  states: z.lazy(() => named(stateSchema)).optional(),
});

const crossingSchema = mapping({
  from: one(z.string()).describe('a state, a group, a list of them, or "*" for everywhere in the lane'),
  to: z.string(),
  when: notationSchema.optional().describe('always open when left out'),
  do: effectsSchema.optional(),
  rank: z.number().int().min(-1000).max(1000).optional(),
  ability: nameSchema.optional(),
  reenter: z.boolean().optional(),
  note: z.string().optional(),
});

const laneSchema = mapping({
  name: nameSchema,
  initial: nameSchema,
  note: z.string().optional(),
  yields: z
    .array(z.enum(['vx', 'vy', 'gravity', 'facing', 'stance']))
    .optional()
    .describe('channels that this lane leaves to others when they write them in the same tick'),
  states: named(stateSchema),
  crossings: z.array(crossingSchema).optional(),
});

const limitsSchema = mapping({
  flicker: notationSchema.optional().describe('two states that alternate twice within this time flicker'),
  repeats: z.number().int().min(2).max(1000).optional().describe('how often a held button may launch'),
  climbs: z
    .number()
    .int()
    .min(2)
    .max(1000)
    .optional()
    .describe('how often a crossing may be taken in one flight, higher each time'),
  momentum: notationSchema.optional().describe('how much speed a change of state may take in one tick'),
  steepGain: notationSchema.optional().describe('how much height may be won on ground that is too steep'),
});

const loggedName = z.string().min(1).max(100);

const gameLogSchema = mapping({
  columns: z
    .record(loggedName, loggedName)
    .optional()
    .describe(
      'by the game\u2019s name of a column what it is here, with its unit: `y [cm]`, `state:legs`, a control',
    ),
  states: named(z.record(loggedName, one(nameSchema)))
    .optional()
    .describe('by lane, the game\u2019s names of states and what each is here: one state, or one of several'),
  within: z
    .record(loggedName, notationSchema)
    .optional()
    .describe('how far a column may be off: 0.01 m for x and y, 0.05 m/s for vx and vy when left out'),
});

export const movesetSchema = mapping({
  ...header('moveset'),
  plane: z.enum(['side', 'above']).optional(),
  tickRate: z.number().int().min(10).max(1000).optional(),
  pixel: notationSchema.optional().describe('the length of one px'),
  gravity: notationSchema.optional(),
  integration: z
    .enum(['semi-implicit', 'explicit', 'trapezoid'])
    .optional()
    .describe('by which velocity of a tick the body moves in it'),
  dials: named(dialSchema).optional(),
  controls: named(controlSchema).optional(),
  body: mapping({ stances: named(stanceSchema), probes: named(probeSchema).optional() }),
  variables: named(variableSchema).optional(),
  timers: named(timerSchema).optional(),
  cooldowns: named(cooldownSchema).optional(),
  tethers: named(tetherSchema).optional(),
  abilities: named(mapping({ locked: z.boolean().optional(), note: z.string().optional() })).optional(),
  settings: named(
    mapping({
      dials: named(notationSchema).describe('values of dials, and of gravity'),
      note: z.string().optional(),
    }),
  )
    .optional()
    .describe('values of dials to keep and to compare'),
  limits: limitsSchema.optional().describe('from where on a run shows a fault'),
  gameLog: gameLogSchema.optional().describe('how to read a log of the game'),
  accept: z
    .array(
      mapping({
        finding: z.string().min(1).describe('its fingerprint, as `glenmark check --format json` prints it'),
        because: z.string().min(1, { error: 'expected the reason, in words' }),
      }),
    )
    .optional()
    .describe('findings that are meant to be so'),
  lanes: z.array(laneSchema).min(1, { error: 'expected at least one lane' }),
});

export type MovesetFile = z.infer<typeof movesetSchema>;
export type LaneFile = MovesetFile['lanes'][number];
export type CrossingFile = z.infer<typeof crossingSchema>;
export type MotionFile = z.infer<typeof motionSchema>;
export type NotationText = z.infer<typeof notationSchema>;

/** What a file says of the state at a path, without what its groups say. */
export const stateAt = (file: MovesetFile, path: Path): StateFile =>
  path.reduce<unknown>((at, step) => (at as Record<string | number, unknown>)[step], file) as StateFile;
