/** Something wrong in a piece of notation; `start` and `end` count UTF-16 units from its beginning. */
export interface Fault {
  start: number;
  end: number;
  message: string;
}

/** Thrown inside lexer and parser only; what they export turns it into a value. */
export class FaultError extends Error {
  constructor(readonly fault: Fault) {
    super(fault.message);
  }
}

export const fail = (start: number, end: number, message: string): never => {
  throw new FaultError({ start, end, message });
};
