import { buildIfNeeded, installIfNeeded } from '../scripts/build.mjs';

/** Builds what is out of date before any server starts: two that start beside each other would both do it. */
export default function buildOnce() {
  installIfNeeded();
  buildIfNeeded('node');
  buildIfNeeded('web');
}
