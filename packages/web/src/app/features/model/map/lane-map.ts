import {
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import type { Finding } from '@glenmark/core/findings';
import type { Machine } from '@glenmark/core/machine';
import { slugOf } from '@glenmark/core/model';
import { MatButton } from '@angular/material/button';
import { catchError, defer, EMPTY, switchMap } from 'rxjs';
import type { LaneAtTick } from '../../../data/shown-tick';
import { KINDS } from '../../../shared/ui/kind-mark';
import type { CellPlace } from '../crossings-grid';
import { boxAt, placeLabels, type Spot } from '../../../shared/ui/labels';
import { layOut } from './layout';
import { BANDS, colourOf, laneGraph, type Layout, type MapNode } from './map-data';
import { saveFile } from '../../../shared/ui/save-file';
import { svgFile } from '../../../shared/ui/svg-file';
import { shortcutOf } from '../../../shared/ui/shortcuts/shortcuts';

/** How much larger than it was laid out a map is drawn at most. */
const LARGEST = 1.35;

/**
 * A lane as a map, laid out by itself from the air to the ground. A click chooses; a drag from one state to another
 * asks for a new crossing there.
 */
@Component({
  selector: 'gm-lane-map',
  imports: [MatButton],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './lane-map.html',
  styleUrl: './lane-map.scss',
})
export class LaneMap {
  readonly machine = input.required<Machine>();
  readonly lane = input.required<number>();
  readonly findings = input.required<Finding[]>();
  readonly place = input<CellPlace | undefined>();
  readonly state = input<string | undefined>();
  /** What the lane did at the tick that Run showed last. */
  readonly atTick = input<LaneAtTick | undefined>();
  readonly openState = output<string>();
  readonly choose = output<CellPlace>();

  private readonly drawing = viewChild<ElementRef<SVGSVGElement>>('drawing');
  private readonly graph = computed(() => laneGraph(this.machine(), this.lane()));
  private readonly layout = signal<Layout | undefined>(undefined);
  /** The state that a drag began in, and where the pointer is now. */
  protected readonly drag = signal<{ from: MapNode; x: number; y: number } | undefined>(undefined);

  /** The state from which the keyboard started a crossing. */
  protected readonly begun = signal<string | undefined>(undefined);

  protected readonly view = computed(() => {
    const layout = this.layout();
    const { nodes, edges } = this.graph();
    if (layout === undefined || nodes.some((n) => layout.nodes[n.id] === undefined)) return undefined;
    const lane = this.machine().lanes[this.lane()]!.name;
    const trouble = this.findings().filter((f) => f.lane === lane && f.accepted === undefined);
    const name = (id: string): string => nodes.find((n) => n.id === id)!.name;
    const place = this.place();
    return {
      box: `0 0 ${layout.width} ${layout.height}`,
      // Smaller than this nobody can read it: then it scrolls.
      minHeight: layout.height * 0.62,
      maxHeight: layout.height * LARGEST,
      bands: bandsOf(nodes, layout),
      nodes: nodes.map((n) => ({
        ...n,
        ...layout.nodes[n.id]!,
        fill: n.group ? 'none' : `var(--${colourOf(n.kind)}-wash)`,
        stroke: `var(--${colourOf(n.kind)})`,
        mark: n.group || n.kind === undefined ? undefined : KINDS[n.kind].path,
        chosen: n.name === this.state(),
        now: n.name === this.atTick()?.state,
        says: [
          n.name,
          ...(n.name === this.atTick()?.state ? [this.nowWord] : []),
          ...(n.start ? [this.startWord] : []),
        ].join(', '),
        bad: trouble.some((f) => f.state === n.name && f.crossing === null),
      })),
      edges: edges.map((e) => {
        const [fromName, toName] = [e.from === 'any' ? '*' : name(e.from), name(e.to)];
        return {
          ...e,
          d: drawn(layout.edges[e.id] ?? []),
          points: layout.edges[e.id] ?? [],
          // All words at once would hide the lines.
          labelled: edges.length <= 8 || [name(e.from), toName].includes(this.state() ?? ''),
          fromName,
          toName,
          says: $localize`${fromName} to ${toName}\: ${e.title}`,
          chosen: place?.to === toName && place.from === fromName,
          bad: trouble.some((f) => f.crossing?.index === e.index),
          open: this.atTick()?.open.has(e.index) === true,
        };
      }),
    };
  });

  /** The line that the pointer is on. */
  protected readonly over = signal<string | undefined>(undefined);
  /** The words of the lines that are labelled, chosen or pointed at, above everything else. */
  protected readonly labels = computed(() => {
    const view = this.view();
    if (view === undefined) return [];
    const shown = view.edges.filter((e) => e.labelled || e.chosen || e.id === this.over());
    const spots = placeLabels(shown, view.edges, view.nodes);
    return shown.flatMap(({ id, text, bad }) => {
      const spot = spots.get(id);
      return spot === undefined ? [] : [{ id, text, bad, ...spot, box: boxAt(spot, text) }];
    });
  });

  /** The text of an SVG title can be marked for translation here only. */
  protected readonly nowWord = $localize`at the tick that Run shows`;
  protected readonly startWord = $localize`start`;

  constructor() {
    toObservable(this.graph)
      .pipe(
        // A drawing that failed leaves the last one; the next change of the lane tries again.
        switchMap((graph) => defer(() => layOut(graph)).pipe(catchError(() => EMPTY))),
        takeUntilDestroyed(),
      )
      .subscribe((layout) => this.layout.set(layout));
  }

  /** The map as it is seen, as a file. */
  protected save(): void {
    const drawing = this.drawing()!.nativeElement;
    const lane = this.machine().lanes[this.lane()]!.name;
    const ground = getComputedStyle(drawing.parentElement!).backgroundColor;
    saveFile(
      `${slugOf(`${this.machine().name} ${lane}`)}.svg`,
      new Blob([svgFile(drawing, ground)], { type: 'image/svg+xml' }),
    );
  }

  protected onEdgeKey(event: KeyboardEvent, place: CellPlace): void {
    if (shortcutOf(event, 'map') !== 'mapOpen') return;
    event.preventDefault();
    this.choose.emit(place);
  }

  protected onNodeKey(event: KeyboardEvent, node: MapNode): void {
    const shortcut = shortcutOf(event, 'map');
    if (shortcut === undefined) return;
    event.preventDefault();
    const from = this.begun();
    this.begun.set(shortcut === 'mapBegin' && node.id !== 'any' ? node.name : undefined);
    if (shortcut !== 'mapOpen') return;
    if (from === undefined) this.openState.emit(node.name);
    else if (node.id !== 'any') this.choose.emit({ from, to: node.name });
  }

  protected begin(event: PointerEvent, from: MapNode): void {
    if (event.button !== 0 || from.id === 'any') return;
    (event.currentTarget as Element).closest('svg')!.setPointerCapture(event.pointerId);
    this.drag.set({ from, ...this.at(event) });
  }

  protected move(event: PointerEvent): void {
    const drag = this.drag();
    if (drag !== undefined) this.drag.set({ ...drag, ...this.at(event) });
  }

  protected end(): void {
    const drag = this.drag();
    this.drag.set(undefined);
    const target = drag === undefined ? undefined : this.nodeAt(drag.x, drag.y);
    if (drag === undefined || target === undefined) return;
    if (target.id === drag.from.id) this.openState.emit(target.name);
    else this.choose.emit({ from: drag.from.name, to: target.name });
  }

  private nodeAt(x: number, y: number): MapNode | undefined {
    return this.view()?.nodes.find(
      (n) => n.id !== 'any' && x >= n.x && x <= n.x + n.width && y >= n.y && y <= n.y + n.height,
    );
  }

  private at(event: PointerEvent): { x: number; y: number } {
    const svg = (event.currentTarget as Element).closest('svg')!;
    return new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM()!.inverse());
  }
}

const drawn = (points: readonly Spot[]): string =>
  points.map((p, i) => `${i === 0 ? 'M' : 'L'}${p.x} ${p.y}`).join('');

/** Where each band begins and ends, for those that have states. */
function bandsOf(
  nodes: readonly MapNode[],
  layout: Layout,
): { title: string; y: number; height: number; odd: boolean }[] {
  const spans = BANDS.flatMap(({ title }, band) => {
    const own = nodes.filter((n) => n.band === band && n.id !== 'any');
    if (own.length === 0) return [];
    const top = Math.min(...own.map((n) => layout.nodes[n.id]!.y));
    const bottom = Math.max(...own.map((n) => layout.nodes[n.id]!.y + n.height));
    return [{ title, top, bottom }];
  });
  return spans.map(({ title, top, bottom }, i) => {
    const from = i === 0 ? 0 : (spans[i - 1]!.bottom + top) / 2;
    const to = i === spans.length - 1 ? layout.height : (bottom + spans[i + 1]!.top) / 2;
    return { title, y: from, height: to - from, odd: i % 2 === 1 };
  });
}
