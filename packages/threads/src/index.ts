/** Worker threads of Node that scout together: `pool` gives out the work, `worker` is what each of them does. */
export * from './pool.js';
