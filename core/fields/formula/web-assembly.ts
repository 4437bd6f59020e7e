/** As much of WebAssembly as formulas use: core knows no browser, and every place it runs in has it. */
interface WebAssemblyHere {
  Module: new (bytes: Uint8Array<ArrayBuffer>) => CompiledModule;
  Instance: new (
    module: CompiledModule,
    imports: Record<string, Record<string, unknown>>,
  ) => { exports: Record<string, unknown> };
  Memory: new (size: { initial: number }) => { readonly buffer: ArrayBuffer };
}

declare const compiled: unique symbol;
export interface CompiledModule {
  readonly [compiled]: true;
}

export const { Module, Instance, Memory } = (globalThis as unknown as { WebAssembly: WebAssemblyHere })
  .WebAssembly;
export type Memory = InstanceType<WebAssemblyHere['Memory']>;
