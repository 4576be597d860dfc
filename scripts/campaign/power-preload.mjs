// Keeps, beside a data folder, what would be left of it after a power cut: each file as it was when it was last synced.
// At a chosen call it ends the process without a word. What was written since the last sync is lost, or, with
// POWER_TORN=1, some of it is there and some not, as a disk may do it.
import fs from 'node:fs';
import { syncBuiltinESMExports } from 'node:module';
import { dirname, join, relative } from 'node:path';
import { open } from 'node:fs/promises';

const { GLENMARK_DATA: data, POWER_SHADOW: shadow, POWER_CUT_AFTER: after, POWER_TORN: torn } = process.env;
const real = { ...fs };
/** Unsynced ranges of each file, by path. */
const dirty = new Map();
let calls = 0;
let isArmed = false;

const pathOf = (fd) => real.readlinkSync(`/proc/self/fd/${fd}`);
const isOurs = (path) => path.startsWith(`${data}/`) && !path.endsWith(' (deleted)');
const shadowOf = (path) => join(shadow, relative(data, path));

function counted() {
  if (!isArmed || ++calls < Number(after)) return;
  if (torn === '1')
    for (const [path, ranges] of dirty)
      for (const range of ranges) if (Math.random() < 0.5) copyRange(path, range);
  process.kill(process.pid, 'SIGKILL');
}

function copyRange(path, [from, length]) {
  if (!real.existsSync(path)) return;
  real.mkdirSync(dirname(shadowOf(path)), { recursive: true });
  const source = real.openSync(path, 'r');
  const target = real.openSync(shadowOf(path), real.constants.O_RDWR | real.constants.O_CREAT);
  const bytes = Buffer.alloc(length);
  const read = real.readSync(source, bytes, 0, length, from);
  real.writeSync(target, bytes, 0, read, from);
  real.closeSync(source);
  real.closeSync(target);
}

function synced(path) {
  if (!isOurs(path)) return;
  if (real.statSync(path).isDirectory()) return syncedFolder(path);
  for (const range of dirty.get(path) ?? []) copyRange(path, range);
  dirty.delete(path);
  if (real.existsSync(shadowOf(path))) real.truncateSync(shadowOf(path), real.statSync(path).size);
}

/** After a folder was synced its names are those that it has; a file that never was synced has no contents yet. */
function syncedFolder(path) {
  const there = new Set(real.readdirSync(path));
  real.mkdirSync(shadowOf(path), { recursive: true });
  for (const name of real.readdirSync(shadowOf(path)))
    if (!there.has(name)) real.rmSync(join(shadowOf(path), name), { recursive: true });
  for (const name of there) {
    const own = join(path, name);
    const copy = shadowOf(own);
    if (real.existsSync(copy)) continue;
    if (real.statSync(own).isDirectory()) real.mkdirSync(copy);
    else if (dirty.has(own) || real.statSync(own).size === 0) real.writeFileSync(copy, '');
    else real.copyFileSync(own, copy);
  }
}

const note = (path, from, length) => {
  if (isOurs(path) && length > 0) dirty.set(path, [...(dirty.get(path) ?? []), [from, length]]);
};

fs.writeSync = (fd, buffer, offset, length, position) => {
  counted();
  const written = real.writeSync(fd, buffer, offset, length, position);
  if (typeof position === 'number') note(pathOf(fd), position, written);
  return written;
};
fs.fsyncSync = (fd) => {
  counted();
  real.fsyncSync(fd);
  synced(pathOf(fd));
};
fs.fdatasyncSync = fs.fsyncSync;
fs.renameSync = (from, to) => {
  real.renameSync(from, to);
  for (const [path, ranges] of [...dirty])
    if (path === from || path.startsWith(`${from}/`)) {
      dirty.delete(path);
      dirty.set(to + path.slice(from.length), ranges);
    }
};
syncBuiltinESMExports();

const probe = await open(new URL(import.meta.url));
const handles = Object.getPrototypeOf(probe);
await probe.close();
const { appendFile, datasync } = handles;
handles.appendFile = async function (bytes) {
  counted();
  const { size } = await this.stat();
  await appendFile.call(this, bytes);
  note(pathOf(this.fd), size, Buffer.byteLength(bytes));
};
handles.datasync = async function () {
  counted();
  await datasync.call(this);
  synced(pathOf(this.fd));
};

// Only what is done while it serves is cut; the shadow begins as the folder is by then.
process.on('SIGUSR2', () => {
  real.rmSync(shadow, { recursive: true, force: true });
  real.cpSync(data, shadow, { recursive: true });
  dirty.clear();
  isArmed = true;
});
