import { svgFile } from './svg-file';

const SVG = 'http://www.w3.org/2000/svg';

/** A drawing in the page, of some elements with their attributes. */
function drawing(...elements: [name: string, attributes: Record<string, string>][]): SVGSVGElement {
  const svg = document.createElementNS(SVG, 'svg');
  svg.setAttribute('viewBox', '0 0 120 80');
  svg.setAttribute('aria-label', 'Map of the lane');
  for (const [name, attributes] of elements) {
    const element = document.createElementNS(SVG, name);
    for (const [key, value] of Object.entries(attributes)) element.setAttribute(key, value);
    svg.append(element);
  }
  document.body.append(svg);
  return svg;
}

describe('a drawing as a file', () => {
  it('has its size and ground, its shapes, and the styles that they are seen in', () => {
    const file = svgFile(
      drawing(['rect', { width: '40', height: '20', style: 'fill: rgb(1, 2, 3)', class: 'odd' }]),
      'rgb(9, 9, 9)',
    );
    const { documentElement: svg } = new DOMParser().parseFromString(file, 'image/svg+xml');
    expect(svg.getAttribute('width')).toBe('120');
    expect(svg.getAttribute('height')).toBe('80');
    const [ground, rect] = [...svg.querySelectorAll('rect')];
    expect(ground!.getAttribute('fill')).toBe('rgb(9, 9, 9)');
    expect(rect!.getAttribute('fill')).toBe('rgb(1, 2, 3)');
    expect(rect!.getAttribute('width')).toBe('40');
  });

  it('answers nobody: no roles, labels or classes are left, and the page keeps its own', () => {
    const svg = drawing(['g', { role: 'button', tabindex: '0', 'aria-label': 'Trot', class: 'node' }]);
    const file = svgFile(svg, 'white');
    expect(file).not.toMatch(/role=|tabindex=|aria-|class=|style=/);
    expect(svg.querySelector('g')!.getAttribute('role')).toBe('button');
  });
});
