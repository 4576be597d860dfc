declare module 'fs-native-extensions' {
  /** Takes an exclusive lock on a whole file, which the kernel keeps until the file is closed; false when another has it. */
  export function tryLock(file: number): boolean;
}
