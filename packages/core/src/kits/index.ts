/**
 * Kits: abilities that are ready to be taken into a moveset. A kit is a moveset of its own, small and sound; `plan`
 * says what of it the other moveset has already, `take` makes the changes that add the rest.
 */
export * from './plan.js';
export * from './take.js';
