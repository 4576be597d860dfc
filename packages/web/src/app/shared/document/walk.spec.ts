import { TestBed } from '@angular/core/testing';
import fc from 'fast-check';
import { Walk, WALK_STEPS } from './walk';

const fresh = (): Walk => {
  TestBed.resetTestingModule();
  return TestBed.inject(Walk);
};

describe('the first walk', () => {
  beforeEach(() => localStorage.clear());

  it('goes on only by what it waits for, in order', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...WALK_STEPS)), (acts) => {
        localStorage.clear();
        const walk = fresh();
        walk.start();
        let done = 0;
        for (const act of acts) {
          walk.did(act);
          if (act === WALK_STEPS[done]) done++;
          expect(walk.done()).toBe(done);
          expect(walk.step()).toBe(WALK_STEPS[done]);
        }
      }),
    );
  });

  it('hears nothing while nobody takes it', () => {
    const walk = fresh();
    for (const step of WALK_STEPS) walk.did(step);
    expect([walk.done(), walk.step()]).toEqual([undefined, undefined]);
  });

  it('is offered until it was taken, or left, in this browser', () => {
    expect(fresh().isOffered()).toBe(true);
    const walk = fresh();
    walk.start();
    expect(walk.isOffered()).toBe(false);
    expect(fresh().isOffered()).toBe(false);
    localStorage.clear();
    fresh().leave();
    expect(fresh().isOffered()).toBe(false);
  });
});
