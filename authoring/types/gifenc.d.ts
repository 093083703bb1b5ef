declare module 'gifenc' {
  export type Palette = number[][]
  export interface Encoder {
    /** One picture: palette indices, shown for `delay` milliseconds. */
    writeFrame(index: Uint8Array, width: number, height: number, options: { palette: Palette; delay: number; repeat?: number }): void
    finish(): void
    bytes(): Uint8Array
  }
  export interface Library {
    GIFEncoder(): Encoder
    /** Colours that come nearest to those of RGBA pixels. */
    quantize(rgba: Uint8Array | Uint8ClampedArray, colours: number, options?: { format?: 'rgb565' | 'rgb444' }): Palette
    applyPalette(rgba: Uint8Array | Uint8ClampedArray, palette: Palette, format?: 'rgb565' | 'rgb444'): Uint8Array
  }
  const library: Library
  export default library
}
