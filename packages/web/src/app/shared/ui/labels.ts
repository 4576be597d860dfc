/** A place in the map (px). */
export interface Spot {
  x: number;
  y: number;
}

/** A line with words on it; the line is straight between its points. */
export interface Worded {
  id: string;
  points: readonly Spot[];
  text: string;
}

/** A rectangle that words should not cover. */
export interface Box extends Spot {
  width: number;
  height: number;
}

/** About how wide a letter of the words is, and how high they are (px). */
const LETTER = 6.7;
const HEIGHT = 13;

/** Where along a stretch words are tried, its middle first. */
const SHARES = [0.5, 0.35, 0.65, 0.2, 0.8];

/**
 * Where the words of lines stand: each on its own line or right beside it, where it covers least of other words, boxes
 * and lines; in the middle of the longest stretch if nothing is there. In the order of the list, so that the first has the best place.
 */
export function placeLabels(
  lines: readonly Worded[],
  all: readonly Worded[],
  boxes: readonly Box[],
): Map<string, Spot> {
  const placed: Box[] = [];
  const spots = new Map<string, Spot>();
  for (const line of lines) {
    const others = all.filter((other) => other.id !== line.id).flatMap((other) => stretchesOf(other.points));
    let best: { at: Spot; box: Box; cost: number } | undefined;
    for (const { aside, ...at } of placesOn(line)) {
      const box = boxAt(at, line.text);
      const cost =
        (aside ? 5 : 0) +
        10 * covered(box, placed) +
        10 * covered(box, boxes) +
        40 * others.filter((s) => crosses(box, s)).length;
      if (best === undefined || cost < best.cost) best = { at, box, cost };
      if (cost === 0) break;
    }
    if (best === undefined) continue;
    placed.push(best.box);
    spots.set(line.id, best.at);
  }
  return spots;
}

/** A point with words beside it. */
export interface Named extends Spot {
  id: string;
  text: string;
}

/** Where words are tried beside their point, the best place first (px from it to their left end, and to their line). */
const BESIDE: readonly ((width: number) => Spot)[] = [
  () => ({ x: 7, y: -6 }),
  () => ({ x: 7, y: 14 }),
  (width) => ({ x: -7 - width, y: -6 }),
  (width) => ({ x: -7 - width, y: 14 }),
  () => ({ x: 7, y: -20 }),
  () => ({ x: 7, y: 28 }),
  (width) => ({ x: -7 - width, y: -20 }),
  (width) => ({ x: -7 - width, y: 28 }),
  () => ({ x: 7, y: -34 }),
  () => ({ x: 7, y: 42 }),
];

/**
 * Where the words of points begin: each at the first place beside its point where it covers no other words, or where it
 * covers least of them. In the order of the list, so that the first has the best place.
 */
export function placeBeside(points: readonly Named[]): Map<string, Spot> {
  const placed: Box[] = [];
  const spots = new Map<string, Spot>();
  for (const { id, text, x, y } of points) {
    const width = text.length * LETTER;
    const places = BESIDE.map((place) => {
      const by = place(width);
      const at = { x: x + by.x, y: y + by.y };
      const box = { x: at.x, y: at.y - HEIGHT + 3, width, height: HEIGHT };
      return { at, box, cost: covered(box, placed) };
    });
    const best = places.reduce((a, b) => (b.cost < a.cost ? b : a));
    placed.push(best.box);
    spots.set(id, best.at);
  }
  return spots;
}

/** The rectangle that words take when they stand at a place. */
export const boxAt = ({ x, y }: Spot, text: string): Box => {
  const width = text.length * LETTER + 6;
  return { x: x - width / 2, y: y - HEIGHT / 2, width, height: HEIGHT };
};

/** How much of a box others cover (px²). */
export const covered = (box: Box, others: readonly Box[]): number =>
  others.reduce((sum, other) => {
    const wide = Math.min(box.x + box.width, other.x + other.width) - Math.max(box.x, other.x);
    const high = Math.min(box.y + box.height, other.y + other.height) - Math.max(box.y, other.y);
    return sum + Math.max(0, wide) * Math.max(0, high);
  }, 0);

type Stretch = readonly [Spot, Spot];

const stretchesOf = (points: readonly Spot[]): Stretch[] => points.slice(1).map((b, i) => [points[i]!, b]);

const lengthOf = ([a, b]: Stretch): number => Math.abs(a.x - b.x) + Math.abs(a.y - b.y);

/** Places for the words of a line, the best first: on it, or beside it where it is upright, above or below where it is level. */
function placesOn({ points, text }: Worded): (Spot & { aside: boolean })[] {
  const { width, height } = boxAt({ x: 0, y: 0 }, text);
  return stretchesOf(points)
    .sort((a, b) => lengthOf(b) - lengthOf(a))
    .flatMap(([a, b]) =>
      SHARES.flatMap((share) => {
        const x = a.x + (b.x - a.x) * share;
        const y = a.y + (b.y - a.y) * share;
        const [dx, dy] = a.x === b.x ? [width / 2 + 1, 0] : [0, height / 2 + 1];
        return [
          { x, y, aside: false },
          { x: x + dx, y: y - dy, aside: true },
          { x: x - dx, y: y + dy, aside: true },
        ];
      }),
    );
}

/** Whether a stretch, which is level or upright, goes through a box. */
const crosses = (box: Box, [a, b]: Stretch): boolean =>
  Math.max(a.x, b.x) > box.x &&
  Math.min(a.x, b.x) < box.x + box.width &&
  Math.max(a.y, b.y) > box.y &&
  Math.min(a.y, b.y) < box.y + box.height;
