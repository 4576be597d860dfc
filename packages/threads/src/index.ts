/**
 * Worker threads of Node that scout together: `pool` begins rounds and puts together what came of them, `worker` is what each
 * of them does, by `claims` they share the tasks of a round.
 */
export * from './pool.js';
