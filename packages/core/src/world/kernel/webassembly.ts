/** What is used here of WebAssembly, which the language itself does not declare: the core has no types of page or server. */
export interface WebAssemblyApi {
  Module: new (bytes: Uint8Array) => WasmModule;
  Instance: new (
    module: WasmModule,
    imports: { env: { memory: WasmMemory } },
  ) => { readonly exports: unknown };
  Memory: new (size: { initial: number }) => WasmMemory;
}

/** A compiled module: only handed on. */
export type WasmModule = Readonly<Record<never, never>>;

export interface WasmMemory {
  readonly buffer: ArrayBuffer;
}

/** WebAssembly, where there is any. */
export const webAssembly = (globalThis as unknown as { WebAssembly?: WebAssemblyApi }).WebAssembly;
