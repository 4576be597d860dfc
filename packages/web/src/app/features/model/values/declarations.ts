import type { Machine } from '@glenmark/core/machine';
import type { MovesetFile, Path } from '@glenmark/core/model';
import type { SymbolKind } from '@glenmark/core/notation';

/** A field of something declared: where it is in the document, what it says there, and what it comes to. */
export interface Field {
  label: string;
  path: Path;
  text: string;
  hint: string;
  placeholder: string;
}

export interface Declaration {
  name: string;
  kind: SymbolKind;
  path: Path;
  fields: Field[];
  /** Charges of a cooldown that has several, with the seconds of one: drawn over time. */
  charges: { max: number; seconds: number } | undefined;
}

export interface Section {
  title: string;
  /** What it is for, for whoever sees it empty. */
  about: string;
  path: Path;
  declarations: Declaration[];
  /** What can be added here, with the value that it begins with. */
  adds: { action: string; label: string; value: unknown }[];
}

type Values = Record<string, unknown>;

/** Everything that a moveset declares beside dials, controls and lanes, as sections of declarations with fields. */
export function sectionsOf(machine: Machine, file: MovesetFile): Section[] {
  const seconds = (ticks: number): string => $localize`${ticks} ticks`;
  const metres = (value: number | undefined): string => (value === undefined ? '' : `${+value.toFixed(3)} m`);
  const section = (
    head: Omit<Section, 'declarations'>,
    entries: Record<string, unknown> | undefined,
    declare: (name: string, value: Values, at: Path) => Omit<Declaration, 'name' | 'path'>,
  ): Section => ({
    ...head,
    declarations: Object.entries(entries ?? {}).map(([name, value]) => {
      const at = [...head.path, name];
      return { name, path: at, ...declare(name, value as Values, at) };
    }),
  });
  const plain = (kind: SymbolKind, fields: Field[]): Omit<Declaration, 'name' | 'path'> => ({
    kind,
    fields,
    charges: undefined,
  });
  return [
    section(
      {
        title: $localize`stances`,
        about: $localize`The shapes that the body can have, each with its feet at the bottom.`,
        path: ['body', 'stances'],
        adds: [
          {
            action: $localize`Add a stance`,
            label: $localize`stance`,
            value: { shape: 'capsule', width: '0.7 m', height: '1 m' },
          },
        ],
      },
      file.body.stances,
      (name, value, at) => {
        const stance = machine.stances.find((s) => s.name === name);
        const shapes = (value['parts'] as Record<string, Values> | undefined) ?? { '': value };
        const fields = Object.entries(shapes).flatMap(([part, shape]) => {
          const own = part === '' ? at : [...at, 'parts', part];
          return ['shape', 'width', 'height'].map((key) =>
            fieldOf(`${part} ${key}`.trim(), [...own, key], shape[key]),
          );
        });
        const tall = stance === undefined ? '' : metres(stance.top - stance.bottom);
        return plain('stance', [
          ...fields,
          fieldOf(
            'anchor',
            [...at, 'anchor'],
            value['anchor'],
            tall === '' ? '' : $localize`${tall} tall`,
            'feet',
          ),
        ]);
      },
    ),
    section(
      {
        title: $localize`probes`,
        about: $localize`Where the body looks for walls, ledges and ground.`,
        path: ['body', 'probes'],
        adds: [
          {
            action: $localize`Add a probe`,
            label: $localize`probe`,
            value: { from: ['0 m', '1 m'], toward: 'ahead', reach: '0.6 m' },
          },
        ],
      },
      file.body.probes,
      (_, value, at) =>
        plain('probe', [
          fieldOf('ahead', [...at, 'from', 0], (value['from'] as unknown[])[0]),
          fieldOf($localize`above the feet`, [...at, 'from', 1], (value['from'] as unknown[])[1]),
          fieldOf('toward', [...at, 'toward'], value['toward']),
          fieldOf('reach', [...at, 'reach'], value['reach']),
        ]),
    ),
    section(
      {
        title: $localize`variables`,
        about: $localize`What the character remembers: flags, counts and numbers.`,
        path: ['variables'],
        adds: [
          { action: $localize`Add a flag`, label: $localize`flag`, value: { flag: false } },
          {
            action: $localize`Add a count`,
            label: $localize`count`,
            value: { count: 1, max: 1, refill: 'grounded' },
          },
          { action: $localize`Add a number`, label: $localize`number`, value: { number: 0 } },
        ],
      },
      file.variables,
      (_, value, at) =>
        plain(
          'variable',
          'flag' in value
            ? [
                fieldOf($localize`at the start`, [...at, 'flag'], value['flag']),
                fieldOf($localize`reset while`, [...at, 'reset'], value['reset'], '', $localize`never`),
              ]
            : 'count' in value
              ? [
                  fieldOf($localize`at the start`, [...at, 'count'], value['count']),
                  fieldOf($localize`at most`, [...at, 'max'], value['max']),
                  fieldOf($localize`refill while`, [...at, 'refill'], value['refill'], '', $localize`never`),
                ]
              : [
                  fieldOf($localize`at the start`, [...at, 'number'], value['number']),
                  fieldOf($localize`reset while`, [...at, 'reset'], value['reset'], '', $localize`never`),
                ],
        ),
    ),
    section(
      {
        title: $localize`timers`,
        about: $localize`Clocks that an effect starts and a guard asks for.`,
        path: ['timers'],
        adds: [{ action: $localize`Add a timer`, label: $localize`timer`, value: { length: '0.5 s' } }],
      },
      file.timers,
      (name, value, at) =>
        plain('timer', [
          fieldOf(
            'length',
            [...at, 'length'],
            value['length'],
            seconds(machine.timers.find((t) => t.name === name)?.ticks ?? 0),
          ),
          fieldOf($localize`runs while`, [...at, 'runs'], value['runs'], '', $localize`always`),
          fieldOf($localize`started again`, [...at, 'again'], value['again'], '', 'restart'),
        ]),
    ),
    section(
      {
        title: $localize`cooldowns`,
        about: $localize`Uses that are spent and come back with time.`,
        path: ['cooldowns'],
        adds: [
          { action: $localize`Add a cooldown`, label: $localize`cooldown`, value: { recharge: '0.8 s' } },
        ],
      },
      file.cooldowns,
      (name, value, at) => {
        const cooldown = machine.cooldowns.find((c) => c.name === name);
        return {
          kind: 'cooldown',
          fields: [
            fieldOf('charges', [...at, 'charges'], value['charges'], '', '1'),
            fieldOf('recharge', [...at, 'recharge'], value['recharge'], seconds(cooldown?.ticks ?? 0)),
            fieldOf($localize`refill while`, [...at, 'refill'], value['refill'], '', $localize`never`),
          ],
          charges:
            cooldown === undefined
              ? undefined
              : { max: cooldown.charges, seconds: cooldown.ticks * machine.dt },
        };
      },
    ),
    section(
      {
        title: $localize`tethers`,
        about: $localize`Lines to an anchor or a surface.`,
        path: ['tethers'],
        adds: [
          {
            action: $localize`Add a tether`,
            label: $localize`tether`,
            value: { reach: '8 m', sees: ['hook'] },
          },
        ],
      },
      file.tethers,
      (_, value, at) =>
        plain('tether', [
          fieldOf('reach', [...at, 'reach'], value['reach']),
          fieldOf('along', [...at, 'aim'], value['aim'], '', $localize`nearest anchor`),
          fieldOf($localize`holds on to`, [...at, 'sees', 0], (value['sees'] as unknown[])[0]),
        ]),
    ),
    section(
      {
        title: $localize`abilities`,
        about: $localize`What may be locked until the player finds it.`,
        path: ['abilities'],
        adds: [{ action: $localize`Add an ability`, label: $localize`ability`, value: { locked: true } }],
      },
      file.abilities,
      (_, value, at) =>
        plain('ability', [fieldOf('locked', [...at, 'locked'], value['locked'], '', 'false')]),
    ),
  ];
}

const fieldOf = (label: string, path: Path, value: unknown, hint = '', placeholder = ''): Field => ({
  label,
  path,
  text: value === undefined ? '' : String(value),
  hint,
  placeholder,
});
