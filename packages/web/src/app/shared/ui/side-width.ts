import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  effect,
  ElementRef,
  inject,
  input,
  signal,
} from '@angular/core';
import { store, stored } from './browser-store';

/** The narrowest side (px), what is left beside it at least, and a step of the arrow keys. */
const MIN_WIDTH = 240;
const LEFT = 420;
const STEP = 16;

/** A width that stays within what there is. */
export const sideWidth = (px: number, room: number): number =>
  Math.round(Math.max(MIN_WIDTH, Math.min(px, Math.max(MIN_WIDTH, room - LEFT))));

/**
 * The rule between a view and its side: dragged, or moved by arrow keys, it sets `--side` on the element that it stands
 * in, which lays out the two. This browser remembers the width by its name; double-click takes the usual one again.
 */
@Component({
  selector: 'gm-side-width',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '',
  host: {
    role: 'separator',
    tabindex: '0',
    'aria-orientation': 'vertical',
    '[attr.aria-label]': 'label',
    '[attr.aria-valuenow]': 'now()',
    '[attr.aria-valuemin]': 'min',
    '[attr.aria-valuemax]': 'max()',
    '[title]': 'title',
    '(pointerdown)': 'grab($event)',
    '(pointermove)': 'drag($event)',
    '(pointerup)': 'drop()',
    '(pointercancel)': 'drop()',
    '(focus)': 'measure()',
    '(keydown)': 'onKey($event)',
    '(dblclick)': 'forget()',
  },
  styles: `
    :host {
      position: absolute;
      top: 0;
      bottom: 0;
      right: calc(var(--side) - 4px);
      width: 8px;
      cursor: col-resize;
      z-index: 5;
      touch-action: none;
    }
    :host(:hover),
    :host(:focus-visible) {
      background: linear-gradient(90deg, transparent 3px, var(--pick-rule) 3px 5px, transparent 5px);
      outline: none;
    }
  `,
})
export class SideWidth {
  private readonly own = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  /** Under which name the width is remembered. */
  readonly name = input.required<string>();

  protected readonly label = $localize`Width of the side`;
  protected readonly title = $localize`Drag to change the width; double-click resets it`;
  protected readonly min = MIN_WIDTH;
  /** How wide the side is now. */
  protected readonly now = signal(MIN_WIDTH);
  protected readonly max = signal(MIN_WIDTH);
  private isHeld = false;

  constructor() {
    effect(() => this.show(Number(stored(this.key())) || undefined));
    afterNextRender(() => this.measure());
  }

  protected grab(event: PointerEvent): void {
    this.isHeld = true;
    this.own.setPointerCapture(event.pointerId);
    event.preventDefault();
  }

  protected drag(event: PointerEvent): void {
    if (this.isHeld) this.show(this.room().right - event.clientX);
  }

  /** A drag is remembered once, at its end. */
  protected drop(): void {
    if (this.isHeld) store(this.key(), String(this.now()));
    this.isHeld = false;
  }

  protected onKey(event: KeyboardEvent): void {
    const by = { ArrowLeft: STEP, ArrowRight: -STEP }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    this.show(this.now() + by);
    store(this.key(), String(this.now()));
  }

  protected forget(): void {
    store(this.key(), undefined);
    this.show(undefined);
  }

  /** Lays out the side with a width, or as usual without one. */
  private show(px: number | undefined): void {
    const { style } = this.own.parentElement!;
    if (px === undefined) style.removeProperty('--side');
    else style.setProperty('--side', `min(${sideWidth(px, this.room().width)}px, 100% - ${LEFT}px)`);
    this.measure();
  }

  protected measure(): void {
    const { right, width } = this.room();
    this.max.set(Math.round(width) - LEFT);
    this.now.set(Math.round(right - this.own.getBoundingClientRect().left - 4));
  }

  private readonly key = (): string => `side.${this.name()}`;
  private readonly room = (): DOMRect => this.own.parentElement!.getBoundingClientRect();
}
