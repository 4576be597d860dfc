/** What a new moveset begins as: it walks. */
// eslint-disable-next-line no-restricted-syntax -- a document, whose name can be changed
export const EMPTY_MOVESET = `glenmark: 1
kind: moveset
name: New moveset
tickRate: 60
gravity: 30 m/s2

dials:
  walkSpeed: { value: 5 m/s, min: 1 m/s, max: 12 m/s, step: 0.1 m/s }

controls:
  move: { axis: { negative: [KeyA, ArrowLeft], positive: [KeyD, ArrowRight], pad: axis0 } }

body:
  stances:
    upright: { shape: capsule, width: 0.7 m, height: 1.7 m }

lanes:
  - name: legs
    initial: Walk
    states:
      Walk:
        home: true
        stance: upright
        each: [face move]
        motion:
          drive: { to: axis(move) * walkSpeed, gain: 60 m/s2, brake: 80 m/s2 }
    crossings: []
`;
