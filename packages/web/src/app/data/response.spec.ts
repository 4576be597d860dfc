import { responseWords } from './response';

const RESPONSE = { dt: 1 / 60, speed: [], letGo: 60, turned: 120, height: [] };
const DRIVE = { full: 6, up: 0.1, stop: 0.2, slide: 0.55, turn: 0.3 };

/** What is told; a number is not parted from its unit there. */
const said = (figures: Pick<Parameters<typeof responseWords>[0], 'drive' | 'rise'>): string[] =>
  responseWords({ ...RESPONSE, ...figures }).map((line) => line.replaceAll('\u00a0', ' '));

describe('the words for a response', () => {
  it('tell of the axis held, let go and turned', () => {
    expect(said({ drive: DRIVE, rise: undefined })).toEqual([
      '6.0 m/s in 0.10 s',
      'stops in 0.20 s, 0.55 m',
      'turns in 0.30 s',
    ]);
  });

  it('say what does not come about, and leave out a turn that does not', () => {
    expect(said({ drive: { ...DRIVE, stop: undefined, turn: undefined }, rise: undefined })).toEqual([
      '6.0 m/s in 0.10 s',
      'does not stop within a second',
    ]);
    expect(said({ drive: undefined, rise: undefined })).toEqual(['the axis does not move it']);
  });

  it('tell of a throw, and of one that does not rise', () => {
    expect(said({ drive: DRIVE, rise: { apex: 2.5, up: 0.5, down: 0.52 } }).at(-1)).toBe(
      'thrown up at 10 m/s: 2.50 m in 0.50 s, down in 0.52 s',
    );
    expect(said({ drive: DRIVE, rise: { apex: 0, up: 0, down: 0.02 } }).at(-1)).toBe('does not rise');
  });
});
