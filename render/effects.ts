/** Effects and blend modes as Skia has them. */
import type { BlendMode as SkBlendMode, CanvasKit, ColorFilter, ImageFilter } from 'canvaskit-wasm'
import { inputsOf } from '@marionette/core/layering/effects'
import type { BlendMode, Effect, EffectInput, EffectStep } from '@marionette/core/puppet/schema'
import { channelsOf } from './paints'

const BLENDS: Record<BlendMode, Exclude<keyof CanvasKit['BlendMode'], 'values'>> = {
  normal: 'SrcOver',
  multiply: 'Multiply',
  screen: 'Screen',
  overlay: 'Overlay',
  darken: 'Darken',
  lighten: 'Lighten',
  'color-dodge': 'ColorDodge',
  'color-burn': 'ColorBurn',
  'hard-light': 'HardLight',
  'soft-light': 'SoftLight',
  difference: 'Difference',
  exclusion: 'Exclusion',
  hue: 'Hue',
  saturation: 'Saturation',
  color: 'Color',
  luminosity: 'Luminosity',
  'plus-lighter': 'Plus',
}

export const skBlend = (CK: CanvasKit, blend: BlendMode): SkBlendMode => CK.BlendMode[BLENDS[blend]] as SkBlendMode

const COMPOSITES = { over: 'SrcOver', in: 'SrcIn', out: 'SrcOut', atop: 'SrcATop', xor: 'Xor', lighter: 'Plus' } as const

/** How far an effect may paint beyond what it works on, px of the part's own space: three deviations of each blur, and all shifts. */
export function reachOf(effect: Effect): number {
  return effect.steps.reduce((sum, s) => {
    if (s.step === 'blur') return sum + 3 * Math.max(s.x, s.y)
    if (s.step === 'offset') return sum + Math.hypot(s.dx, s.dy)
    return s.step === 'shadow' ? sum + 3 * Math.max(s.x, s.y) + Math.hypot(s.dx, s.dy) : sum
  }, 0)
}

/** Runs `use` with the filter of an effect; everything made for it is deleted afterwards. */
export function withEffect<R>(CK: CanvasKit, effect: Effect, use: (filter: ImageFilter | null) => R): R {
  const builder = new EffectBuilder(CK)
  try {
    return use(builder.build(effect))
  } finally {
    builder.dispose()
  }
}

/** Null stands for the picture that the effect works on. */
type Result = ImageFilter | null

class EffectBuilder {
  private readonly made: { delete(): void }[] = []
  private readonly toLight: ColorFilter
  private readonly fromLight: ColorFilter

  constructor(private readonly CK: CanvasKit) {
    this.toLight = this.keep(CK.ColorFilter.MakeSRGBToLinearGamma())
    this.fromLight = this.keep(CK.ColorFilter.MakeLinearToSRGBGamma())
  }

  build(effect: Effect): Result {
    const results: Result[] = []
    for (const step of effect.steps) results.push(this.step(step, results))
    return results.at(-1) ?? null
  }

  dispose(): void {
    for (const object of this.made) object.delete()
  }

  private keep<T extends { delete(): void }>(object: T): T {
    this.made.push(object)
    return object
  }

  private colours(filter: ColorFilter, of: Result): ImageFilter {
    return this.keep(this.CK.ImageFilter.MakeColorFilter(filter, of))
  }

  /** One step; where it computes with light its inputs are taken there and the result back. */
  private step(step: EffectStep, results: readonly Result[]): Result {
    const linear = 'linear' in step && step.linear
    const inputs = inputsOf(step).map((input) => {
      const result = this.input(input, results)
      return linear ? this.colours(this.toLight, result) : result
    })
    const made = this.apply(step, inputs)
    return linear ? this.colours(this.fromLight, made) : made
  }

  private input(input: EffectInput, results: readonly Result[]): Result {
    if (input === 'source') return null
    if (input !== 'coverage') return results[input] ?? null
    const alphaOnly = [0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 1, 0]
    return this.colours(this.keep(this.CK.ColorFilter.MakeMatrix(alphaOnly)), null)
  }

  private apply(step: EffectStep, inputs: readonly Result[]): Result {
    const { CK } = this
    const [of = null, under = null] = inputs
    switch (step.step) {
      case 'blur':
        return step.x === 0 && step.y === 0 ? of : this.keep(CK.ImageFilter.MakeBlur(step.x, step.y, CK.TileMode.Decal, of))
      case 'shadow': {
        const [r, g, b] = channelsOf(step.colour).map((v) => (step.linear ? lightOf(v) : v)) as [number, number, number]
        return this.keep(CK.ImageFilter.MakeDropShadow(step.dx, step.dy, step.x, step.y, CK.Color4f(r, g, b, step.alpha), of))
      }
      case 'colours':
        return this.colours(this.keep(CK.ColorFilter.MakeMatrix(step.matrix)), of)
      case 'flood':
        return this.keep(
          CK.ImageFilter.MakeShader(this.keep(CK.Shader.MakeColor(CK.Color4f(...channelsOf(step.colour), step.alpha), CK.ColorSpace.SRGB))),
        )
      case 'offset':
        return this.keep(CK.ImageFilter.MakeOffset(step.dx, step.dy, of))
      case 'merge':
        return inputs.reduce((below, above) => this.blend(CK.BlendMode.SrcOver, below, above))
      case 'composite':
        return this.blend(CK.BlendMode[COMPOSITES[step.how]], under, of)
      case 'blend':
        return this.blend(skBlend(CK, step.how), under, of)
    }
  }

  private blend(mode: SkBlendMode, below: Result, above: Result): ImageFilter {
    return this.keep(this.CK.ImageFilter.MakeBlend(mode, below, above))
  }
}

/** A stored colour value as light (sRGB, IEC 61966-2-1). */
const lightOf = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4)
