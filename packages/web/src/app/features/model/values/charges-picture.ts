import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';

const WIDTH = 110;
const HEIGHT = 16;

/** The charges of a cooldown over time, when all are spent at once: a stair that climbs back. */
@Component({
  selector: 'gm-charges-picture',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg [attr.width]="width" [attr.height]="height" role="img" [attr.aria-label]="label()">
      <path [attr.d]="path()" />
    </svg>
    <span class="mono dim">{{ total() }} s</span>
  `,
  styles: `
    :host {
      display: inline-flex;
      align-items: center;
      gap: 6px;
      font-size: 11px;
    }
    path {
      fill: none;
      stroke: var(--tide);
      stroke-width: 1.5;
    }
  `,
})
export class ChargesPicture {
  readonly max = input.required<number>();
  readonly seconds = input.required<number>();
  protected readonly width = WIDTH;
  protected readonly height = HEIGHT;
  protected readonly total = computed(() => +(this.max() * this.seconds()).toFixed(2));
  protected readonly label = computed(
    () => $localize`${this.max()} spent at once come back in ${this.total()} seconds`,
  );
  protected readonly path = computed(() => {
    const n = this.max();
    const [left, run] = [12, (WIDTH - 16) / n];
    const y = (charges: number): number => HEIGHT - 2 - (charges / n) * (HEIGHT - 5);
    const steps = Array.from({ length: n }, (_, i) => `H${left + (i + 1) * run}V${y(i + 1)}`);
    return `M1 ${y(n)}H${left}V${y(0)}${steps.join('')}H${WIDTH}`;
  });
}
