import type { WriteStream } from 'node:tty';
import type { ScoutingProgress } from '@glenmark/core/findings';

/** Milliseconds between two updates of the line. */
const EVERY = 200;

/** Keeps one line of a terminal up to date while scouting; elsewhere it says nothing. */
export function reportProgress(terminal: WriteStream): (report: ScoutingProgress) => void {
  if (!terminal.isTTY) return () => undefined;
  let last = 0;
  const started = Date.now();
  return ({ course, situations, of, ticks, taken, crossings }) => {
    const now = Date.now();
    if (now - last < EVERY) return;
    last = now;
    const share = Math.min(1, situations / of);
    const left = share > 0 ? Math.ceil((((now - started) / share) * (1 - share)) / 1000) : 0;
    const speed = Math.round(ticks / ((now - started) / 1000) / 1000);
    terminal.clearLine(0);
    terminal.cursorTo(0);
    terminal.write(
      `${course}: ${(100 * share).toFixed(0)}%, ${situations.toLocaleString('en')} situations, ${taken}/${crossings} crossings, ${speed} thousand ticks/s, ${left} s left`,
    );
    if (share === 1) terminal.write('\n');
  };
}
