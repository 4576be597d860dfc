import { describe, expect, it } from 'vitest';
import { turnedChanges } from './turned-dials';

const dials = [
  { name: 'hopSpeed', valuePath: ['dials', 'hopSpeed'] },
  { name: 'share', valuePath: ['dials', 'share', 'value'] },
];

describe('dials that are turned', () => {
  it('become changes where the dial has its value: numbers as numbers, all else as notation', () => {
    expect(
      turnedChanges(dials, [
        { dial: 'hopSpeed', text: '12 m/s' },
        { dial: 'share', text: '0.5' },
      ]),
    ).toEqual([
      { path: ['dials', 'hopSpeed'], value: '12 m/s' },
      { path: ['dials', 'share', 'value'], value: 0.5 },
    ]);
  });

  it('keep what is empty as it was typed, and leave out dials that are gone', () => {
    expect(
      turnedChanges(dials, [
        { dial: 'share', text: ' ' },
        { dial: 'gone', text: '1' },
      ]),
    ).toEqual([{ path: ['dials', 'share', 'value'], value: ' ' }]);
  });
});
