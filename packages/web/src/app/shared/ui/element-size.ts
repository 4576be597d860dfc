import { DestroyRef, ElementRef, inject, type Signal, signal } from '@angular/core';

/** The size of the component's own element in pixels, as it changes. */
export function elementSize(): Signal<{ width: number; height: number }> {
  const element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  const size = signal({ width: element.clientWidth || 600, height: element.clientHeight || 200 });
  if (typeof ResizeObserver !== 'undefined') {
    const observer = new ResizeObserver(() =>
      size.set({ width: element.clientWidth, height: element.clientHeight }),
    );
    observer.observe(element);
    inject(DestroyRef).onDestroy(() => observer.disconnect());
  }
  return size.asReadonly();
}
