import { TestBed } from '@angular/core/testing';
import { CertaintyMark } from './certainty-mark';
import { KindMark, KINDS } from './kind-mark';
import { MarkedText } from './marked-text';

describe('marks', () => {
  it('say in words what they show in colour', () => {
    for (const kind of Object.keys(KINDS) as (keyof typeof KINDS)[]) {
      const fixture = TestBed.createComponent(KindMark);
      fixture.componentRef.setInput('kind', kind);
      fixture.detectChanges();
      expect((fixture.nativeElement as HTMLElement).querySelector('svg')!.getAttribute('aria-label')).toBe(
        KINDS[kind].word,
      );
    }
    const fixture = TestBed.createComponent(CertaintyMark);
    fixture.componentRef.setInput('certainty', 'witnessed');
    fixture.detectChanges();
    expect((fixture.nativeElement as HTMLElement).textContent?.trim()).toBe('witnessed');
  });

  it('set notation apart in a sentence, and lose no word of it', () => {
    const fixture = TestBed.createComponent(MarkedText);
    fixture.componentRef.setInput('text', 'asks for `falling` and `grounded` at once');
    fixture.detectChanges();
    const element = fixture.nativeElement as HTMLElement;
    expect(element.textContent).toBe('asks for falling and grounded at once');
    expect([...element.querySelectorAll('.notation')].map((c) => c.textContent)).toEqual([
      'falling',
      'grounded',
    ]);
  });
});
