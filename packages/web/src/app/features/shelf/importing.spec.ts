import { TestBed } from '@angular/core/testing';
import { readScxml } from '@glenmark/core/charts';
import { firstValueFrom, of, throwError } from 'rxjs';
import courier from '../../../../../../examples/courier.yaml' with { loader: 'text' };
import { Analysis } from '../../data/analysis';
import { Api } from '../../data/api';
import { Importing } from './importing';

/** A file whose text can be read: jsdom has files, and none of their readers. */
const fileOf = (name: string, text: string): File =>
  Object.assign(new File([text], name), { text: () => Promise.resolve(text) });

/** Imports files where the server refuses what has a name that is taken, and tells what it was sent. */
function importing() {
  const sent: string[] = [];
  const api = {
    import: (text: string) => {
      if (text.includes('name: Taken'))
        return throwError(() => ({ problem: { detail: 'there is one of that name' } }));
      sent.push(text);
      return of({});
    },
    importBackup: (zip: File) =>
      zip.name === 'all.zip'
        ? of({ added: ['Courier', 'Kite'], continued: [], known: ['Marram'], beside: [] })
        : throwError(() => ({ problem: { detail: 'this is no zip file' } })),
  };
  TestBed.configureTestingModule({
    providers: [
      { provide: Api, useValue: api },
      { provide: Analysis, useValue: { chart: (text: string) => of(readScxml(text)) } },
    ],
  });
  const service = TestBed.inject(Importing);
  const files = (named: Record<string, string>) =>
    firstValueFrom(service.all(Object.entries(named).map(([name, text]) => fileOf(name, text))));
  return { files, sent };
}

describe('importing files', () => {
  it('sends documents as they are, and tells why one was refused: by its place, or by the server', async () => {
    const { files, sent } = importing();
    const results = await files({
      'courier.yaml': courier,
      'broken.yaml': courier.replace('initial: Trot', 'initial: Trott'),
      'taken.yaml': courier.replace('name: Courier', 'name: Taken'),
    });
    expect(sent).toEqual([courier]);
    const refused = Object.fromEntries(results.map(({ file, refused: lines }) => [file, lines]));
    expect(refused['courier.yaml']).toEqual([]);
    expect(refused['broken.yaml']![0]).toMatch(/^\d+:\d+: no state/);
    expect(refused['taken.yaml']).toEqual(['there is one of that name']);
  });

  it('makes a moveset of a chart, and tells by line what did not come over', async () => {
    const { files, sent } = importing();
    const chart = '<scxml version="1.0" name="Gate">\n<state id="shut"><invoke/></state>\n</scxml>';
    const results = await files({ 'gate.scxml': chart, 'svg.xml': '<svg/>' });
    expect(sent).toHaveLength(1);
    expect(sent[0]).toContain('name: Gate');
    expect(results.find((r) => r.file === 'gate.scxml')!.lost).toContain(
      "2: 'invoke' has no counterpart here",
    );
    expect(results.find((r) => r.file === 'svg.xml')!.refused[0]).toMatch(/^1:1: found the element 'svg'/);
  });

  it('does not read a file that is too large', async () => {
    const { files, sent } = importing();
    const [result] = await files({ 'long.yaml': 'x'.repeat(4_000_001) });
    expect(result!.refused).toEqual(['found 4000001 bytes, expected at most 4000000']);
    expect(sent).toEqual([]);
  });

  it('sends a backup whole, and tells what became of what is in it', async () => {
    const { files } = importing();
    const results = await files({ 'all.zip': 'PK', 'notes.zip': '' });
    expect(results.find((r) => r.file === 'all.zip')).toMatchObject({
      refused: [],
      backup: ['added: Courier, Kite', 'here already: Marram'],
    });
    expect(results.find((r) => r.file === 'notes.zip')).toMatchObject({
      refused: ['this is no zip file'],
      backup: [],
    });
  });
});
