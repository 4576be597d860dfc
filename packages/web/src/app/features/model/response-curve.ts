import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { MIN_SPEED, type Response } from '@glenmark/core/run';
import { responseWords } from '../../data/response';

const WIDTH = 372;
const HEIGHT = 74;

/** Speed over time as the axis is held, let go and turned; and, in the air, the height of a throw. */
@Component({
  selector: 'gm-response-curve',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (moves()) {
      <svg [attr.viewBox]="view().box" role="img" [attr.aria-label]="says().join('; ')">
        <line x1="0" [attr.x2]="view().width" [attr.y1]="view().zero" [attr.y2]="view().zero" class="zero" />
        @for (mark of view().marks; track mark.text) {
          <line [attr.x1]="mark.x" [attr.x2]="mark.x" y1="0" [attr.y2]="view().height" class="mark" />
        }
        <path [attr.d]="view().speed" class="speed" />
        @if (view().thrown) {
          <path [attr.d]="view().thrown" class="thrown" />
        }
        @for (mark of view().marks; track mark.text) {
          <text [attr.x]="mark.x + 3" [attr.y]="view().height - 4">{{ mark.text }}</text>
        }
      </svg>
    }
    @for (line of says(); track line) {
      <p class="mono">{{ line }}</p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 2px;
      font-size: 12px;
    }
    svg {
      width: 100%;
      background: var(--paper);
      border: 1px solid var(--rule);
    }
    text {
      paint-order: stroke;
      stroke: var(--paper);
      stroke-width: 3px;
    }
    p {
      text-wrap: balance;
    }
    .zero,
    .mark {
      stroke: var(--rule-2);
    }
    .speed {
      fill: none;
      stroke: var(--moss);
      stroke-width: 1.8;
    }
    .thrown {
      fill: none;
      stroke: var(--tide);
      stroke-width: 1.8;
      stroke-dasharray: 4 2;
    }
  `,
})
export class ResponseCurve {
  readonly response = input.required<Response>();

  protected readonly says = computed(() => responseWords(this.response()));
  /** Nothing is drawn of a state in which nothing moves the body. */
  protected readonly moves = computed(() => {
    const { speed, height } = this.response();
    return height.length > 0 || speed.some((v) => Math.abs(v) >= MIN_SPEED);
  });
  protected readonly view = computed(() => {
    const { speed, letGo, turned, height } = this.response();
    const max = Math.max(1, ...speed.map(Math.abs));
    const zero = HEIGHT / 2;
    const x = (t: number): number => (t / speed.length) * WIDTH;
    const y = (v: number): number => zero - (v / max) * (zero - 4);
    const apex = Math.max(0.1, ...height);
    const line = (points: readonly (readonly [number, number])[]): string =>
      points.map(([a, b], i) => `${i === 0 ? 'M' : 'L'}${a.toFixed(1)} ${b.toFixed(1)}`).join('');
    return {
      box: `0 0 ${WIDTH} ${HEIGHT}`,
      width: WIDTH,
      height: HEIGHT,
      zero,
      marks: [
        { x: 0, text: $localize`held, to ${max.toFixed(1)} m/s` },
        { x: x(letGo), text: $localize`let go` },
        { x: x(turned), text: $localize`turned` },
      ],
      speed: line(speed.map((v, t) => [x(t), y(v)])),
      thrown:
        height.length === 0
          ? ''
          : line(height.map((h, t) => [x(t), HEIGHT - 3 - (h / apex) * (HEIGHT - 18)])),
    };
  });
}
