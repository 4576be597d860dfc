// What general physics libraries take for one step of the same scene, with nothing but the body in it.
import RAPIER from '@dimforge/rapier2d-compat';
import { Box, Polygon, Vec2, World } from 'planck';
import { repeated } from './measure.mjs';

const DT = 1 / 60;
const corners = (polygon) =>
  Array.from({ length: polygon.length / 2 }, (_, i) => ({ x: polygon[2 * i], y: polygon[2 * i + 1] }));

/** A rigid-body step: the course as fixed bodies, the courier as one that does not rotate and is pushed to and fro. */
export function rigidSteps(course) {
  const world = new World({ gravity: new Vec2(0, -34) });
  for (const { polygon } of course.solids)
    world.createBody().createFixture(new Polygon(corners(polygon).map(({ x, y }) => new Vec2(x, y))));
  const body = world.createBody({ type: 'dynamic', position: new Vec2(2, 1), fixedRotation: true });
  body.createFixture({ shape: new Box(0.35, 0.85), density: 1, friction: 0 });
  let t = 0;
  const work = (n) => {
    for (let i = 0; i < n; i++) {
      const { y } = body.getLinearVelocity();
      body.setLinearVelocity(new Vec2(t++ % 60 < 30 ? 6 : -6, t % 50 === 0 ? 10 : y));
      world.step(DT);
    }
  };
  return repeated(20, 75, work);
}

/** A kinematic-controller step: the course as fixed colliders, the courier as a capsule that is moved along them. */
export async function kinematicSteps(course) {
  await RAPIER.init({});
  const world = new RAPIER.World({ x: 0, y: 0 });
  world.timestep = DT;
  for (const { polygon } of course.solids)
    world.createCollider(RAPIER.ColliderDesc.convexHull(Float32Array.from(polygon)));
  const body = world.createRigidBody(RAPIER.RigidBodyDesc.kinematicPositionBased().setTranslation(2, 1));
  const capsule = world.createCollider(RAPIER.ColliderDesc.capsule(0.5, 0.35), body);
  const controller = world.createCharacterController(0.01);
  controller.enableSnapToGround(0.15);
  let t = 0;
  let vy = 0;
  const work = (n) => {
    for (let i = 0; i < n; i++) {
      vy = t % 50 === 0 ? 10 : controller.computedGrounded() ? 0 : vy - 34 * DT;
      controller.computeColliderMovement(capsule, { x: (t++ % 60 < 30 ? 6 : -6) * DT, y: vy * DT });
      const by = controller.computedMovement();
      const at = body.translation();
      body.setNextKinematicTranslation({ x: at.x + by.x, y: at.y + by.y });
      world.step();
    }
  };
  return repeated(20, 15, work);
}

/** A bare sweep of a box through the same course, to and fro: what a whole tick would take if it asked one question. */
export async function boxSweeps(course) {
  await RAPIER.init({});
  const world = new RAPIER.World({ x: 0, y: 0 });
  for (const { polygon } of course.solids)
    world.createCollider(RAPIER.ColliderDesc.convexHull(Float32Array.from(polygon)));
  world.step();
  const box = new RAPIER.Cuboid(0.35, 0.85);
  let t = 0;
  const work = (n) => {
    for (let i = 0; i < n; i++) {
      const way = t++ % 60 < 30 ? 1 : -1;
      world.castShape({ x: 2 + (t % 60) / 10, y: 0.9 }, 0, { x: 6 * way, y: -1 }, box, 0, DT, false);
    }
  };
  return repeated(20, 60, work);
}
