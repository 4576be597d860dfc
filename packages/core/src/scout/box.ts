/** A place on a course, in metres. */
export interface Box {
  minX: number;
  maxX: number;
  minY: number;
  maxY: number;
}

/** How far a point is from a place (m); 0 within it. */
export const distanceTo = ({ minX, maxX, minY, maxY }: Box, x: number, y: number): number => {
  const dx = Math.max(minX - x, 0, x - maxX);
  const dy = Math.max(minY - y, 0, y - maxY);
  return Math.sqrt(dx * dx + dy * dy);
};
