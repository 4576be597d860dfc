import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { StoredDocument } from '@glenmark/contract';
import { readMoveset } from '@glenmark/core/machine';
import { readTape } from '@glenmark/core/run';
import { cornersOf, readCourse } from '@glenmark/core/world';
import { partPath } from '../../shared/ui/part-path';

/** A small drawing of a document: the stances of a moveset, the outline of a course, the bars of a tape. */
@Component({
  selector: 'gm-picture',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      [attr.viewBox]="drawing().box"
      [attr.width]="drawing().width"
      height="44"
      [attr.preserveAspectRatio]="drawing().fit"
      aria-hidden="true"
    >
      @for (shape of drawing().shapes; track $index) {
        <path [attr.d]="shape.d" [attr.class]="shape.tone" vector-effect="non-scaling-stroke" />
      }
    </svg>
  `,
  styles: `
    :host {
      flex: none;
      background: var(--sheet);
      border: 1px solid var(--rule);
      padding: 3px;
      display: flex;
    }
    path {
      fill: var(--well);
      stroke: var(--ink-3);
      stroke-width: 1;
    }
    .body {
      fill: var(--tide-wash);
      stroke: var(--tide);
    }
    .bar {
      fill: var(--ink-2);
      stroke: none;
    }
  `,
})
export class Picture {
  readonly document = input.required<StoredDocument>();
  protected readonly drawing = computed(() => draw(this.document()));
}

interface Drawing {
  box: string;
  fit: string;
  width: number;
  shapes: { d: string; tone: string }[];
}

// eslint-disable-next-line no-restricted-syntax -- SVG
const MEET = 'xMidYMax meet';

function draw({ kind, text }: StoredDocument): Drawing {
  const nothing: Drawing = { box: '0 0 1 1', fit: MEET, width: 60, shapes: [] };
  if (kind === 'moveset') {
    const { machine } = readMoveset(text);
    if (machine === undefined) return nothing;
    const stances = machine.stances.filter((s) => !s.hidden);
    const step = 0.25 + Math.max(...stances.flatMap((s) => s.parts.map((p) => p.width)));
    const top = Math.max(...stances.map((s) => s.top));
    const shapes = stances.flatMap((stance, i) =>
      stance.parts.map((part) => ({ d: partPath(part, (i + 0.5) * step), tone: 'body' })),
    );
    return {
      fit: MEET,
      box: `0 ${-top - 0.05} ${step * stances.length} ${top + 0.1}`,
      width: 60,
      shapes,
    };
  }
  if (kind === 'course') {
    const { course } = readCourse(text);
    if (course === undefined) return nothing;
    const { minX, minY, maxX, maxY } = course.bounds;
    const shapes = course.solids.map((s) => ({
      d: `M${cornersOf(s.polygon)
        .map(([x, y]) => `${x} ${-y}`)
        .join('L')}Z`,
      tone: 'solid',
    }));
    return { fit: MEET, box: `${minX} ${-maxY} ${maxX - minX} ${maxY - minY}`, width: 240, shapes };
  }
  const { tape } = readTape(text);
  if (tape === undefined) return nothing;
  const shapes = tape.inputs.flatMap(({ spans }, row) =>
    spans.map((s) => ({ d: `M${s.from} ${row * 10 + 2}h${s.length}v6h${-s.length}Z`, tone: 'bar' })),
  );
  return { fit: 'none', box: `0 0 ${tape.ticks} ${Math.max(4, tape.inputs.length) * 10}`, width: 60, shapes };
}
