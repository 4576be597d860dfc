import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { TestBed } from '@angular/core/testing';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatMenuHarness } from '@angular/material/menu/testing';
import type { Problem } from '@glenmark/contract';
import { type Observable, of, throwError } from 'rxjs';
import { Api, ApiError } from '../../data/api';
import { LEAVE_FOR } from '../../data/session';
import { Notifications } from '../../shared/ui/notifications';
import { SignOut } from './sign-out';

/** The shelf's way to sign out, with a server that asks for a token or not, and that answers as it is told to. */
function setUp(asksForToken: boolean, reply: Observable<unknown> = of(undefined)) {
  const done: unknown[] = [];
  TestBed.configureTestingModule({
    providers: [
      {
        provide: Api,
        useValue: {
          session: () => of({ asksForToken }),
          signOut: (whose: object) => {
            done.push(whose);
            return reply;
          },
        },
      },
      // Another page cannot be opened here: it is noted where this one would go.
      { provide: LEAVE_FOR, useValue: (address: string) => done.push(address) },
      { provide: Notifications, useValue: { say: (sentence: string) => done.push(sentence) } },
    ],
  });
  const fixture = TestBed.createComponent(SignOut);
  return { done, loader: TestbedHarnessEnvironment.loader(fixture) };
}

async function choose(loader: ReturnType<typeof setUp>['loader'], text: string): Promise<void> {
  const menu = await loader.getHarness(MatMenuHarness);
  await menu.open();
  await menu.clickItem({ text });
}

describe('signing out', () => {
  it('is not offered where the server asks nobody for a token', async () => {
    const { loader } = setUp(false);
    expect(await loader.getAllHarnesses(MatButtonHarness)).toEqual([]);
  });

  it('ends the session of this browser, or of all, and leads to the sign-in page', async () => {
    const { loader, done } = setUp(true);
    await choose(loader, 'This browser');
    await choose(loader, 'Everybody, in every browser');
    expect(done).toEqual([{ everywhere: false }, '/sign-in', { everywhere: true }, '/sign-in']);
  });

  it('stays, and says why, when the server refuses', async () => {
    const refused = new ApiError({ status: 503, detail: 'The database cannot be reached.' } as Problem);
    const { loader, done } = setUp(
      true,
      throwError(() => refused),
    );
    await choose(loader, 'This browser');
    expect(done).toEqual([{ everywhere: false }, 'The database cannot be reached.']);
  });
});
