/** The world kernel: what `src/world/plain` does, over one linear memory. See docs/architecture/world.md. */
export { begin } from './memory';
export { castShape, contactsAt, fits, isTouching, sweep, zonesAt } from './queries';
export { carry, moveBody, slideBody, sortContacts } from './move';
