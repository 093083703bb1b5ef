declare module 'fft.js' {
  /** Radix-4 fast Fourier transform of a power of two. */
  export default class FFT {
    constructor(size: number)
    createComplexArray(): number[]
    /** Writes the lower half of the spectrum of real samples, real and imaginary parts in turn. */
    realTransform(out: number[] | Float64Array, samples: number[] | Float64Array): void
  }
}
