import type { Machine } from '@glenmark/core/machine';
import type { MovesetFile, Path } from '@glenmark/core/model';

/** A stance as it is drawn over the others (metres), and where its own numbers are written, when they are. */
export interface StanceShape {
  name: string;
  width: number;
  height: number;
  /** Whether its ends are round. */
  round: boolean;
  /** The stance in the document; undefined when it has parts, or is written in other terms than metres. */
  path: Path | undefined;
}

/** The stances of one shape that a person can take hold of, the largest first. */
export const stanceShapes = (machine: Machine, file: MovesetFile): StanceShape[] =>
  Object.entries(file.body.stances)
    .flatMap(([name, own]): StanceShape[] => {
      const stance = machine.stances.find((s) => s.name === name);
      const [part] = stance?.parts ?? [];
      if (part === undefined || stance!.parts.length > 1 || 'parts' in own) return [];
      const isPlain = [own.width, own.height].every((text) => /^[\d.]+ m$/.test(String(text)));
      return [
        {
          name,
          width: part.width,
          height: part.height,
          round: part.shape === 'capsule',
          path: isPlain ? ['body', 'stances', name] : undefined,
        },
      ];
    })
    .sort((a, b) => b.height - a.height);

const STEP = 0.05;

/** A dragged dimension as it is written: metres, in steps of five centimetres, and never so small that it is no body. */
export const writtenSize = (metres: number): string =>
  `${Number((Math.max(2, Math.round(metres / STEP)) * STEP).toFixed(2))} m`;
