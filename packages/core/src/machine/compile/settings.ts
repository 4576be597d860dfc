import { ACCELERATION } from '../../notation/index.js';
import { didYouMean } from '../../model/index.js';
import type { Dial, KeptSetting } from '../definition/machine.js';
import { type Context, constantAt, fault } from './context.js';

/** Compiles the settings to keep: values of dials that can be turned, or of gravity. */
export function compileSettings(context: Context, dials: readonly Dial[]): KeptSetting[] {
  const turned = dials.filter((dial) => !dial.derived).map((dial) => dial.name);
  return Object.entries(context.file.settings ?? {}).map(([name, { dials: values }]): KeptSetting => {
    const path = ['settings', name];
    const kept: Record<string, number> = {};
    for (const [dial, text] of Object.entries(values)) {
      const at = [...path, 'dials', dial];
      const known = dials.find((d) => d.name === dial);
      if (known?.derived === true)
        fault(
          context,
          at,
          `found '${dial}', which is worked out from others, expected a dial that can be turned`,
          {
            key: true,
          },
        );
      else if (known === undefined && dial !== 'gravity')
        fault(context, at, `no dial is called '${dial}'${didYouMean(dial, turned)}`, { key: true });
      else {
        if (known !== undefined)
          context.references.push({ kind: 'dial', name: dial, use: 'key', path: at, span: undefined });
        kept[dial] = constantAt(context, text, at, known?.dimension ?? ACCELERATION);
      }
    }
    return { name, values: kept, path };
  });
}
