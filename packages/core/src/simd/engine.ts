import { moduleOf, type Kernel } from "./assemble";
import { KERNELS } from "./kernels";

type Sum = (out: number, end: number, rows: number, fours: number, rowsEnd: number, weights: number) => void;
type Across = (row: number, out: number, end: number, first: number, weights: number, taps: number) => void;

export interface VectorKernels {
  readonly sum: Sum;
  readonly across1: Across;
  readonly across3: Across;
  readonly across4: Across;
}

export interface VectorMemory {
  readonly buffer: ArrayBuffer;
}

/** What is needed of the engine's WebAssembly, which is the same in browsers and in Node. */
interface Wasm {
  readonly validate: (bytes: Uint8Array) => boolean;
  readonly Module: new (bytes: Uint8Array) => object;
  readonly Memory: new (size: { initial: number }) => VectorMemory;
  readonly Instance: new (module: object, imports: object) => { readonly exports: unknown };
}

export const PAGE = 65536;

export interface Instance<K> {
  readonly kernels: K;
  readonly memory: VectorMemory;
}

/** Kernels that are compiled when they are first wanted. */
export class VectorModule<K> {
  private compiled: { readonly wasm: Wasm; readonly module: object } | null | undefined;

  constructor(private readonly list: () => readonly Kernel[]) {}

  /** The kernels on memory of their own; null where the engine has no vectors. */
  on(pages: number): Instance<K> | null {
    this.compiled ??= this.compile();
    if (!this.compiled) return null;
    const { wasm, module } = this.compiled;
    const memory = new wasm.Memory({ initial: pages });
    const { exports } = new wasm.Instance(module, { host: { memory } });
    return { kernels: exports as K, memory };
  }

  private compile() {
    const wasm = (globalThis as { WebAssembly?: Wasm }).WebAssembly;
    const bytes = moduleOf(this.list());
    return wasm?.validate(bytes) ? { wasm, module: new wasm.Module(bytes) } : null;
  }
}

/** Kernels on rows of doubles. */
export const rowKernels = new VectorModule<VectorKernels>(() => KERNELS);
