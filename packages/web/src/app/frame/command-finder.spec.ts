import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { MatAutocompleteHarness } from '@angular/material/autocomplete/testing';
import { MatDialogRef } from '@angular/material/dialog';
import { CommandFinder } from './command-finder';
import { type Command, Commands } from './commands';

async function open(names: string[]) {
  const done: string[] = [];
  const commands = names.map((name): Command => ({
    name,
    about: name.endsWith('s') ? 'view' : 'state',
    run: () => done.push(name),
  }));
  TestBed.configureTestingModule({
    providers: [
      { provide: MatDialogRef, useValue: { close: () => done.push('closed') } },
      { provide: Commands, useValue: { all: signal(commands) } },
    ],
  });
  const fixture = TestBed.createComponent(CommandFinder);
  const box = await TestbedHarnessEnvironment.loader(fixture).getHarness(MatAutocompleteHarness);
  await box.focus();
  const offered = async (): Promise<string[]> =>
    Promise.all(
      (await box.getOptions()).map(async (o) =>
        (await o.getText()).match(/^(.*?)(state|view)?$/)![1]!.trim(),
      ),
    );
  return { box, offered, done };
}

describe('the finder', () => {
  it('offers everything at first, and then what has all the words, in the name or beside it', async () => {
    const { box, offered } = await open(['Trot', 'Rise', 'Findings', 'Values']);
    expect(await offered()).toEqual(['Trot', 'Rise', 'Findings', 'Values']);
    await box.enterText('view');
    expect(await offered()).toEqual(['Findings', 'Values']);
    await box.clear();
    await box.enterText('vi FIND');
    expect(await offered()).toEqual(['Findings']);
  });

  it('closes, and then does what was chosen', async () => {
    const { box, done } = await open(['Trot', 'Rise']);
    await box.enterText('ris');
    await box.selectOption({ text: /Rise/ });
    expect(done).toEqual(['closed', 'Rise']);
  });

  it('says so when nothing matches, and offers no more than can be looked through', async () => {
    const { box, offered } = await open(Array.from({ length: 200 }, (_, i) => `S${i}`));
    expect(await offered()).toHaveLength(60);
    await box.enterText('nothing like it');
    const [only] = await box.getOptions();
    expect(await only!.getText()).toBe('No matches.');
    expect(await only!.isDisabled()).toBe(true);
  });
});
