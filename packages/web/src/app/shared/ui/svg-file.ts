/** What of an element's style is seen in a drawing. */
const SEEN = [
  'fill',
  'fill-opacity',
  'stroke',
  'stroke-width',
  'stroke-dasharray',
  'stroke-linecap',
  'stroke-linejoin',
  'opacity',
  'visibility',
  'display',
  'font-family',
  'font-size',
  'font-weight',
  'font-style',
  'text-anchor',
] as const;

/** Attributes that a drawing needs nobody for: names for styles, and what makes it answer. */
const LEFT_OUT = /^(class|style|tabindex|role|aria-.*|_ng.*|ng-.*)$/;

/**
 * A drawing of the page as a file of its own, as it is seen: every style is written where it holds, on a ground of the
 * page's colour, as large as its view box and all of its words.
 */
export function svgFile(drawing: SVGSVGElement, ground: string): string {
  const copy = drawing.cloneNode(true) as SVGSVGElement;
  const pairs = [drawing, ...drawing.querySelectorAll<SVGElement>('*')];
  [copy, ...copy.querySelectorAll<SVGElement>('*')].forEach((element, i) => {
    const style = getComputedStyle(pairs[i]!);
    for (const { name } of [...element.attributes]) if (LEFT_OUT.test(name)) element.removeAttribute(name);
    for (const property of SEEN) {
      const value = style.getPropertyValue(property);
      if (value !== '' && value !== inherited(pairs[i]!, property)) element.setAttribute(property, value);
    }
  });
  const { x, y, width, height } = frameOf(drawing);
  copy.setAttribute('viewBox', `${x} ${y} ${width} ${height}`);
  copy.setAttribute('width', String(width));
  copy.setAttribute('height', String(height));
  const under = document.createElementNS('http://www.w3.org/2000/svg', 'rect');
  for (const [name, value] of Object.entries({ x, y, width, height, fill: ground }))
    under.setAttribute(name, String(value));
  copy.insertBefore(under, copy.firstChild);
  return `${new XMLSerializer().serializeToString(copy)}\n`;
}

/** What a property is around an element, within the drawing: what is the same there need not be said again. */
function inherited(element: Element, property: string): string | undefined {
  const around = element.parentElement;
  return around instanceof SVGElement && property !== 'opacity' && property !== 'display'
    ? getComputedStyle(around).getPropertyValue(property)
    : undefined;
}

/** Around words that lie beyond the view box, which the page shows where it has room. */
const MARGIN = 8;

/** What is to be seen: the view box, and every word. */
function frameOf(drawing: SVGSVGElement): { x: number; y: number; width: number; height: number } {
  const [x = 0, y = 0, width = 0, height = 0] = (drawing.getAttribute('viewBox') ?? '')
    .split(/\s+/)
    .map(Number);
  let [left, top, right, bottom] = [x, y, x + width, y + height];
  for (const text of drawing.querySelectorAll('text')) {
    const box = drawnBox(drawing, text);
    left = Math.min(left, box.left - MARGIN);
    top = Math.min(top, box.top - MARGIN);
    right = Math.max(right, box.right + MARGIN);
    bottom = Math.max(bottom, box.bottom + MARGIN);
  }
  return { x: left, y: top, width: right - left, height: bottom - top };
}

/** Where an element is, in the units of the drawing. */
function drawnBox(
  drawing: SVGSVGElement,
  element: Element,
): { left: number; top: number; right: number; bottom: number } {
  const { left, top, right, bottom } = element.getBoundingClientRect();
  const toDrawing = drawing.getScreenCTM()?.inverse();
  const [from, to] = [new DOMPoint(left, top), new DOMPoint(right, bottom)].map((point) =>
    toDrawing === undefined ? point : point.matrixTransform(toDrawing),
  );
  return { left: from!.x, top: from!.y, right: to!.x, bottom: to!.y };
}
