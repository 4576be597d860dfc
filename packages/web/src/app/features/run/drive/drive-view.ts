import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  type OnDestroy,
  type OnInit,
  output,
  untracked,
} from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatSelectModule } from '@angular/material/select';
import { type Account, why } from '@glenmark/core/run';
import { buildWorld } from '@glenmark/core/world';
import { capOfCode } from '../../../shared/ui/shortcuts/key-press';
import { Shortcuts } from '../../../shared/ui/shortcuts/shortcuts';
import { isTyping } from '../../../shared/ui/typing';
import { DriveCourse } from './drive-course';
import { DriveScore } from './drive-score';
import type { Driver } from './driver';
import { lostPressNow, takenNow } from './happenings';

/** How often *why* follows (ms). */
const WHY_EVERY = 100;

/** Driving: the course follows the body, keys and pad play it, the score rolls under it, and all of it is kept. */
@Component({
  selector: 'gm-drive-view',
  imports: [MatSelectModule, MatButton, DriveCourse, DriveScore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: {
    '(document:keydown)': 'onKey($event)',
    '(document:keyup)': 'driver()?.hands?.release($event.code)',
    '(window:blur)': 'driver()?.hands?.letGo()',
  },
  templateUrl: './drive-view.html',
  styleUrl: './drive-view.scss',
})
export class DriveView implements OnInit, OnDestroy {
  readonly driver = input.required<Driver>();
  readonly done = output<number[][]>();
  readonly again = output();
  /** Why the tick that is shown went as it did, ten times a second. */
  readonly account = output<Account>();

  protected readonly speeds = [1, 0.5, 0.25, 0.1];
  /** A second world, only for *why*, which moves its movers back to where they were at the tick. */
  private readonly past = computed(() => {
    const { machine, world } = this.driver().drive;
    return buildWorld(world.course, machine.stances, machine.casts);
  });

  protected readonly speed = computed(() => {
    const { vx, vy } = this.driver().record()?.body ?? { vx: 0, vy: 0 };
    return Math.sqrt(vx * vx + vy * vy).toFixed(1);
  });
  /** The state of each lane, and the crossing that it has just taken. */
  protected readonly lanes = computed(() => takenNow(this.driver().trace, this.driver().shown()));
  protected readonly lost = computed(() => lostPressNow(this.driver().trace, this.driver().shown()));
  protected readonly keys = computed(() => {
    const held = this.driver().record()?.input ?? [];
    const down = this.driver().hands.down();
    return this.driver().drive.machine.controls.map((c, i) => ({
      name: c.name,
      caps: [...new Set([...c.keys, ...c.negative, ...c.positive])].map((code) => ({
        text: capOfCode(code),
        down: down.has(code),
      })),
      held: (held[i] ?? 0) !== 0,
    }));
  });

  constructor() {
    const unlessBound = (act: () => void) => (event?: KeyboardEvent) =>
      event !== undefined && this.isBound(event) ? false : act();
    inject(Shortcuts).on({
      pause: unlessBound(() => this.driver().togglePause()),
      driveBack: unlessBound(() => this.driver().back()),
      driveForward: unlessBound(() => this.driver().forward()),
      driveAgain: unlessBound(() => this.again.emit()),
      driveStop: unlessBound(() => this.stop()),
    });
    let asked = -Infinity;
    effect(() => {
      const driver = this.driver();
      const tick = driver.shown();
      if (tick < 0 || (!driver.paused() && performance.now() - asked < WHY_EVERY)) return;
      asked = performance.now();
      untracked(() => this.account.emit(why(driver.trace, this.past(), tick)));
    });
  }

  ngOnInit(): void {
    this.driver().start();
  }

  ngOnDestroy(): void {
    this.driver().stop();
  }

  protected stop(): void {
    this.driver().stop();
    this.done.emit(this.driver().inputs);
  }

  protected onKey(event: KeyboardEvent): void {
    if (isTyping(event) || !this.isBound(event)) return;
    event.preventDefault();
    this.driver().hands.press(event.code);
  }

  /** Whether a control of the moveset has the key: then it drives, and does nothing else. */
  private isBound({ code, ctrlKey, metaKey }: KeyboardEvent): boolean {
    if (ctrlKey || metaKey) return false;
    const { controls } = this.driver().drive.machine;
    return controls.some((c) => [...c.keys, ...c.negative, ...c.positive].includes(code));
  }
}
