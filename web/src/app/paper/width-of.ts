import { afterNextRender, DestroyRef, ElementRef, inject, signal, type Signal } from '@angular/core';

/** How wide the component is, as it is drawn; `usual` until then. */
export function widthOf(usual: number): Signal<number> {
  const width = signal(usual);
  const host = (inject(ElementRef) as ElementRef<HTMLElement>).nativeElement;
  const destroyed = inject(DestroyRef);
  afterNextRender(() => {
    const observer = new ResizeObserver(([entry]) => width.set(entry!.contentRect.width));
    observer.observe(host);
    destroyed.onDestroy(() => observer.disconnect());
  });
  return width;
}
