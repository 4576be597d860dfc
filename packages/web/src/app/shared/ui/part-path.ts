import type { Part } from '@glenmark/core/world';

/** What is drawn of a body part. */
export type Outline = Pick<Part, 'shape' | 'width' | 'height' | 'ox' | 'oy'>;

/** The outline of a body part standing at x, with y down as the screen has it. */
export function partPath(part: Outline, x: number, y = 0): string {
  const r = part.shape === 'capsule' ? Math.min(part.width, part.height) / 2 : 0;
  const [left, right] = [x + part.ox - part.width / 2, x + part.ox + part.width / 2];
  const [bottom, top] = [y - part.oy, y - part.oy - part.height];
  const corner = (dx: number, dy: number): string => (r === 0 ? '' : `a${r} ${r} 0 0 1 ${dx} ${dy}`);
  return `M${left} ${top + r}${corner(r, -r)}H${right - r}${corner(r, r)}V${bottom - r}${corner(-r, r)}H${left + r}${corner(-r, -r)}Z`;
}
