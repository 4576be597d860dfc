import { readMoveset } from '@glenmark/core/machine';
import { readTape, runTape } from '@glenmark/core/run';
import { readCourse } from '@glenmark/core/world';
import { choose, example, expect, test } from './app.js';

/** The digest of a sample tape with a moveset, played here in Node. */
function digestHere(moveset: string, course: string, tape: string): string {
  const { session } = runTape(
    readMoveset(moveset).machine!,
    readCourse(example(course)).course!,
    readTape(example(tape)).tape!,
  );
  return session!.digest;
}

for (const [name, id, course, tapes] of [
  ['Marram', 'marram', 'tide-mill.yaml', ['shaft-climb', 'winch-swing', 'draught-ride', 'ferry-crossing']],
  ['Courier', 'courier', 'mill-yard.yaml', ['yard-crossing', 'culvert-slide']],
] as const) {
  test(`${name}: a run in the browser is the run in Node, bit for bit, on both machines`, async ({ app }) => {
    await app.getByRole('link', { name, exact: true }).click();
    await app.getByRole('tab', { name: 'Run', exact: true }).click();
    // As the server has it now: other tests on this server may have changed it.
    const reply = await app.request.get(new URL(`/api/movesets/${id}`, app.url()).href);
    const { text } = (await reply.json()) as { text: string };
    for (const file of tapes) {
      const title = readTape(example(`${file}.yaml`)).tape!.name;
      await choose(app.getByLabel('Tape'), title);
      const digest = digestHere(text, course, `${file}.yaml`);
      await expect(app.getByText(`digest ${digest}, on both machines`)).toBeVisible();
    }
  });
}
