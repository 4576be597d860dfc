import type { Aim, Result } from '@glenmark/core/scout';

/** What a worker is begun with; the memory of the arenas, and of who claims what, is shared with it. */
export interface Beginning {
  moveset: string;
  courses: readonly string[];
  buffers: readonly ArrayBufferLike[];
  claims: SharedArrayBuffer;
  /** By what number it claims; 0 is the thread that merges. */
  id: number;
}

/** A round on one of the courses: whoever takes part claims one of its slots after the other. */
export interface Work {
  course: number;
  slots: number[];
  goals: Aim[];
  /** Which of two rounds under way it is. */
  turn: number;
}

/** What came of the moves in slots that a worker claimed, where there is more to tell than is in the arena. */
export type Reply = (Result & { slot: number })[];
