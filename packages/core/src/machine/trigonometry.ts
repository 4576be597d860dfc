/** Trigonometry by basic operations alone, so that a run is the same to the last bit everywhere. */

/**
 * The steepness of a surface with unit normal (nx, ny), in degrees, by basic operations alone so that it is the same
 * to the last bit everywhere: the angle is halved thrice (tan(a/2) = tan a / (1 + √(1 + tan² a))), then the arctangent
 * series x − x³/3 + x⁵/5 … is summed, whose terms fall below 1e-17 by the thirteenth.
 */
export function slopeDegrees(nx: number, ny: number): number {
  if (ny <= 0) return 90;
  let t = Math.abs(nx) / ny;
  for (let i = 0; i < 3; i++) t = t / (1 + Math.sqrt(1 + t * t));
  const square = t * t;
  let sum = 0;
  let power = t;
  for (let n = 1; n < 27; n += 2) {
    sum += (n % 4 === 1 ? power : -power) / n;
    power *= square;
  }
  return (8 * sum * 180) / Math.PI;
}

/** The unit vector of a direction in degrees (0 right, 90 up): Taylor series on at most 45°, exact at the quarters. */
export function unitVector(degrees: number): { x: number; y: number } {
  const vector = { x: 0, y: 0 };
  putUnitVector(degrees, vector);
  return vector;
}

/** The same without making an object. */
export function putUnitVector(degrees: number, into: { x: number; y: number }): void {
  const quarter = Math.round(degrees / 90);
  const a = ((degrees - quarter * 90) * Math.PI) / 180;
  let cosine = 0;
  let sine = 0;
  // Terms up to a¹⁷/17! are below 1e-17 for |a| ≤ π/4.
  let term = 1;
  for (let n = 0; n < 18; n++) {
    if (n % 2 === 0) cosine += n % 4 === 0 ? term : -term;
    else sine += n % 4 === 1 ? term : -term;
    term *= a / (n + 1);
  }
  const turn = ((quarter % 4) + 4) % 4;
  into.x = turn === 0 ? cosine : turn === 1 ? -sine : turn === 2 ? -cosine : sine;
  into.y = turn === 0 ? sine : turn === 1 ? cosine : turn === 2 ? -sine : -cosine;
}

/** The cosine of an angle in degrees. */
export const cosine = (degrees: number): number => unitVector(degrees).x;

/**
 * e^−x: what exponential damping leaves of a speed. x is halved until it is at most ½, the series 1 − x + x²/2! − … is
 * summed, whose terms fall below 1e-17 by the fourteenth, and the result squared as often as x was halved.
 */
export function decay(x: number): number {
  if (x < 0) return 1 / decay(-x);
  if (x > 745) return 0;
  let part = x;
  let halvings = 0;
  for (; part > 0.5; halvings++) part /= 2;
  let sum = 0;
  let term = 1;
  for (let n = 1; n <= 15; n++) {
    sum += term;
    term *= -part / n;
  }
  for (; halvings > 0; halvings--) sum *= sum;
  return sum;
}
