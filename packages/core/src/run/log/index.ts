/** A log of the game against the model: `read-log` reads it, `compare-log` holds it against a run of the same inputs. */
export * from './read-log.js';
export * from './compare-log.js';
