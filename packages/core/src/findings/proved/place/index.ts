/**
 * Where a body can come on a course: `free-space` are the squares in which its feet may be, `rise` how far it gets above
 * what it stood on. `ground` is a course made of such squares, `reach` where the body comes on it from its spawns, and
 * `facts` what that rules out, `unlockers` the zones among it that would unlock something.
 */
export { reachesOn, type Reaches, reachFacts, walledInFindings } from './facts.js';
export { freeSpace, type FreeSpace, squareAround } from './free-space.js';
export { groundOf } from './ground.js';
export { type Reach, reachFrom } from './reach.js';
export { type Unlocker, unlockersOf, walledOffUnlockers, zoneFinding } from './unlockers.js';
export { type Rise, riseOn } from './rise.js';
