import { computed, inject, Injectable, type OnDestroy, signal } from '@angular/core';
import { Router } from '@angular/router';
import { Playback } from '../../shared/document/playback';
import { Walk } from '../../shared/document/walk';
import { PlayedTape } from './played-tape';
import type { Stretch } from '../../shared/document/score-rows';

/** Marks the navigations that only write down where the playhead went. */
const OWN = 'playhead';

/** Where in the run one is: the tick, the chosen span, and how it plays. */
@Injectable()
export class Playhead implements OnDestroy {
  private readonly router = inject(Router);
  private readonly played = inject(PlayedTape);
  private readonly walk = inject(Walk);
  private readonly playback = new Playback();
  private readonly at = signal(0);

  readonly tick = computed(() => Math.min(this.at(), this.played.last()));
  readonly playing = this.playback.playing;
  /** A share of real time. */
  readonly speed = signal(1);
  /** The chosen ticks, and whether they are played over and over. */
  readonly span = signal<Stretch | undefined>(undefined);
  readonly looping = signal(false);

  ngOnDestroy(): void {
    this.playback.stop();
  }

  /** Goes to a tick, which the address then says. */
  moveTo(tick: number): void {
    this.playback.stop();
    this.at.set(Math.max(0, Math.min(this.played.last(), tick)));
    // With the tape, even where it is the one that is shown without a word: a link is to be right tomorrow, too.
    const queryParams = { tape: this.played.entry()?.tape?.id, tick: this.at() };
    const info = OWN;
    void this.router.navigate([], { queryParams, queryParamsHandling: 'merge', replaceUrl: true, info });
  }

  /** Whether the address says what it does because of `moveTo`: the playhead may be further by now. */
  isOwnAddress(): boolean {
    return this.router.lastSuccessfulNavigation()?.extras.info === OWN;
  }

  /** Goes to a tick that the address says already, or to the beginning of another tape. */
  startAt(tick: number): void {
    this.playback.stop();
    this.at.set(tick);
  }

  toggle(): void {
    if (this.playing()) return this.moveTo(this.tick());
    this.walk.did('play');
    const last = this.played.last();
    this.playback.play(this.tick() >= last ? 0 : this.tick(), {
      rate: this.played.session()?.trace.machine.rate ?? 60,
      speed: this.speed,
      last,
      loop: () => (this.looping() ? this.span() : undefined),
      at: (tick) => this.at.set(tick),
      done: () => this.moveTo(last),
    });
  }

  /** Chooses ticks: from the playhead on, or up to it, beside what is chosen already. */
  choose(end: 'from' | 'to'): void {
    const [span, tick] = [this.span(), this.tick()];
    if (end === 'from')
      this.span.set({ from: tick, to: Math.max(tick + 1, span?.to ?? this.played.last() + 1) });
    else this.span.set({ from: Math.min(tick, span?.from ?? 0), to: tick + 1 });
  }

  toggleLoop(): void {
    this.looping.set(!this.looping());
    if (this.looping() && !this.playing()) this.toggle();
  }

  leaveSpan(): void {
    this.span.set(undefined);
    this.looping.set(false);
  }
}
