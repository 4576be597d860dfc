import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { describe, expect, it } from 'vitest';
import { Scoutings } from '../../data/scoutings';
import { Workspace } from '../../data/workspace';
import { laneOf } from './choice';
import { LaneSummary } from './lane-summary';

const machine = {
  lanes: [{ name: 'legs', states: [0, 1, 2], crossings: [{}, {}, {}] }],
  states: [{ members: [1, 2] }, { members: [] }, { members: [] }],
};

/** What the summary says of a lane. */
function said({ findings = [] as object[], byTapes = [] as number[], scouted = [] as number[] }): string {
  const crossings = (of: number[]) => of.map((index) => ({ lane: 'legs', index }));
  TestBed.configureTestingModule({
    providers: [
      {
        provide: Workspace,
        useValue: {
          machine: signal(machine),
          revision: signal(3),
          findings: signal(findings),
          byTapes: signal({ crossings: [...crossings(byTapes), { lane: 'hands', index: 2 }] }),
        },
      },
      {
        provide: Scoutings,
        useValue: {
          current: signal({ revision: 3, coverage: { ofStates: 2, crossings: crossings(scouted) } }),
        },
      },
    ],
  });
  const fixture = TestBed.createComponent(LaneSummary);
  fixture.componentRef.setInput('index', 0);
  fixture.detectChanges();
  const { children } = fixture.nativeElement as HTMLElement;
  return [...children].map((part) => part.textContent.trim()).join(', ');
}

describe('the summary of a lane', () => {
  it('counts states without groups, crossings, and those that tapes or scouting used, each once', () => {
    expect(said({ byTapes: [0, 1], scouted: [1] })).toBe(
      'legs, 2 states, 3 crossings, 2 used by tapes or scouting, no findings',
    );
  });

  it('counts the findings of the lane that nobody accepts', () => {
    const findings = [{ lane: 'legs' }, { lane: 'legs', accepted: 'meant' }, { lane: 'hands' }];
    expect(said({ findings })).toContain('1 finding');
  });
});

describe('the lane that is chosen', () => {
  const lanes = { lanes: [{ name: 'legs' }, { name: 'hands' }] };

  it('is the one that is named, and the first where none of that name is there', () => {
    expect(laneOf(lanes, { lane: 'hands' })).toBe(1);
    expect(laneOf(lanes, { lane: 'gone' })).toBe(0);
    expect(laneOf(lanes, {})).toBe(0);
  });
});
