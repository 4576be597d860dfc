import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { readMoveset } from '@glenmark/core/machine';
import { readTape, runTape } from '@glenmark/core/run';
import { readCourse } from '@glenmark/core/world';
import { Subject } from 'rxjs';
import courier from '../../../../../../examples/courier.yaml' with { loader: 'text' };
import slide from '../../../../../../examples/culvert-slide.yaml' with { loader: 'text' };
import yard from '../../../../../../examples/mill-yard.yaml' with { loader: 'text' };
import { Analysis, type Played } from '../../data/analysis';
import { TapeDesk } from '../../data/tape-desk';
import { Workspace } from '../../data/workspace';
import { PlayedTape } from './played-tape';

const session = runTape(
  readMoveset(courier).machine!,
  readCourse(yard).course!,
  readTape(slide).tape!,
).session!;
const entryOf = (id: string, moveset: string, course: string | undefined = yard) => ({
  moveset,
  tape: { id, name: id, text: slide },
  course: course === undefined ? undefined : { text: course },
});

/** Run with these tapes, whose answers come when the test says so. */
function runWith(tapes: ReturnType<typeof entryOf>[]) {
  const answers: Subject<Played>[] = [];
  const opened: string[] = [];
  const id = signal<string | undefined>(undefined);
  const workspace = { id: signal('courier'), text: signal(courier), tapes: signal(tapes) };
  TestBed.configureTestingModule({
    providers: [
      PlayedTape,
      { provide: Workspace, useValue: workspace },
      {
        provide: TapeDesk,
        useValue: {
          id,
          tape: signal(readTape(slide).tape),
          open: (tape: string) => {
            opened.push(tape);
            id.set(tape);
          },
        },
      },
      {
        provide: Analysis,
        useValue: {
          run: () => {
            const answer = new Subject<Played>();
            answers.push(answer);
            return answer;
          },
        },
      },
    ],
  });
  const played = TestBed.inject(PlayedTape);
  TestBed.tick();
  return { played, answers, opened, workspace };
}
const good: Played = { session, agreed: 'same', wrong: [] };

describe('the tape that is played', () => {
  it('is the one that is asked for, else the first of the moveset, and is opened to be edited', () => {
    const { played, opened } = runWith([
      entryOf('other', 'kite'),
      entryOf('one', 'courier'),
      entryOf('two', 'courier'),
    ]);
    expect(played.entry()!.tape.id).toBe('one');
    played.asked.set('two');
    TestBed.tick();
    expect(played.entry()!.tape.id).toBe('two');
    played.asked.set('other');
    TestBed.tick();
    expect(played.entry()!.tape.id).toBe('other');
    expect(opened).toEqual(['one', 'two', 'other']);
  });

  it('shows the run of the newest text, and never one that was asked for before', () => {
    const { played, answers, workspace } = runWith([entryOf('one', 'courier')]);
    answers[0]!.next(good);
    expect([played.session(), played.agreed(), played.last()]).toEqual([
      session,
      'same',
      session.trace.records.length - 1,
    ]);
    workspace.text.set(`${courier}# changed\n`);
    TestBed.tick();
    workspace.text.set(`${courier}# changed again\n`);
    TestBed.tick();
    answers[1]!.next({ agreed: 'unasked', wrong: ['late'] });
    expect(played.wrong()).toEqual([]);
    answers[2]!.next({ agreed: 'unasked', wrong: ['does not fit'] });
    expect([played.session(), played.wrong()]).toEqual([undefined, ['does not fit']]);
  });

  it('says in a sentence that a course is missing, or that the run failed, and goes on with the next text', () => {
    const { played, answers, workspace } = runWith([entryOf('one', 'courier')]);
    answers[0]!.error(new Error('out of memory'));
    expect(played.wrong()).toEqual(['The run failed: out of memory.']);
    workspace.text.set(`${courier}# changed\n`);
    TestBed.tick();
    answers[1]!.next(good);
    expect(played.wrong()).toEqual([]);
    workspace.tapes.set([{ ...entryOf('one', 'courier'), course: undefined }]);
    TestBed.tick();
    expect(played.wrong()).toEqual(['The course of “one” is not on the shelf.']);
    expect(played.session()).toBeUndefined();
  });

  it('can be edited while it is the open one, with its marks in ticks of the run', () => {
    const { played, answers } = runWith([entryOf('one', 'courier')]);
    answers[0]!.next(good);
    expect(played.isOpen()).toBe(true);
    expect(played.editable()).toBeDefined();
    expect(played.marks()).toEqual(readTape(slide).tape!.marks.map(({ name, tick }) => ({ name, tick })));
  });
});
