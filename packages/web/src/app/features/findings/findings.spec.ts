import { CUSTOM_ELEMENTS_SCHEMA, NO_ERRORS_SCHEMA, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter, RouterLink } from '@angular/router';
import { createUndecided, type Finding, proveAll, type Repair } from '@glenmark/core/findings';
import { readMoveset } from '@glenmark/core/machine';
import { Subject } from 'rxjs';
import { Api } from '../../data/api';
import { Library } from '../../data/library';
import { Scoutings } from '../../data/scoutings';
import { Workspace } from '../../data/workspace';
import { Findings } from './findings';
import { TriedRepairs } from './tried-repairs';

const TEXT = `glenmark: 1
kind: moveset
name: Small
controls:
  hop: { button: [Space] }
body:
  stances:
    upright: { shape: box, width: 1 m, height: 2 m }
lanes:
  - name: legs
    initial: A
    states: { A: {}, B: {} }
    crossings:
      - { from: A, to: B, when: pressed(hop) }
`;

/** The page over a moveset whose B is never left, with repairs that come when they are told to. */
function open() {
  const { machine } = readMoveset(TEXT);
  const findings = proveAll(machine!).findings.filter((f) => f.code === 'OUT1');
  const tried = new Subject<Repair[]>();
  const asked: Finding[] = [];
  const applied: string[] = [];
  const workspace = {
    id: signal('small'),
    text: signal(TEXT),
    machine: signal(machine),
    findings: signal(findings),
    undecided: signal([createUndecided('situations', { lane: 'legs', states: ['A', 'B'], things: [] })]),
    tapes: signal([]),
    atOpening: signal(undefined),
    findingsFresh: signal(true),
    triedRepairs: (finding: Finding) => {
      asked.push(finding);
      return tried;
    },
    apply: (title: string) => {
      applied.push(title);
      return [];
    },
  };
  TestBed.configureTestingModule({
    imports: [Findings],
    providers: [
      provideRouter([]),
      { provide: Workspace, useValue: workspace },
      { provide: Api, useValue: {} },
      { provide: Library, useValue: { courses: signal([]) } },
      { provide: Scoutings, useValue: { current: signal(undefined) } },
    ],
  });
  TestBed.overrideComponent(Findings, {
    set: { imports: [RouterLink, TriedRepairs], schemas: [CUSTOM_ELEMENTS_SCHEMA, NO_ERRORS_SCHEMA] },
  });
  const fixture = TestBed.createComponent(Findings);
  fixture.componentRef.setInput('open', findings[0]!.fingerprint);
  const text = async (): Promise<string> => {
    TestBed.tick();
    await fixture.whenStable();
    return (fixture.nativeElement as HTMLElement).textContent;
  };
  return { fixture, text, tried, asked, applied };
}

describe('the findings', () => {
  it('offer a repair once it was tried, and make it', async () => {
    const { fixture, text, tried, asked, applied } = open();
    expect(await text()).toContain('Trying repairs');
    expect(asked.map((f) => f.code)).toEqual(['OUT1']);
    tried.next([{ title: 'Add a crossing', changes: [] }]);
    expect(await text()).not.toContain('Trying repairs');
    const [button] = [
      ...(fixture.nativeElement as HTMLElement).querySelectorAll<HTMLButtonElement>('.fix button'),
    ];
    button!.click();
    expect(applied[0]).toContain('Add a crossing');
  });

  it('name what was not decided', async () => {
    const { text } = open();
    expect(await text()).toContain('The lane legs has too many situations');
  });
});
