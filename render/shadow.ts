/** Shadows as Skia paints them. */
import type { CanvasKit, Paint } from 'canvaskit-wasm'
import type { Shadow } from '@marionette/core/puppet/schema'
import { using } from './owned'
import { channelsOf } from './paints'

/** Gives `use` a paint that turns a layer into a flat, soft shadow; all that is made for it is deleted afterwards. */
export function withShadow(CK: CanvasKit, { colour, softness, opacity }: Shadow, use: (paint: Paint) => void): void {
  using(new CK.Paint(), (paint) =>
    using(CK.ColorFilter.MakeBlend(CK.Color4f(...channelsOf(colour), 1), CK.BlendMode.SrcIn), (flat) => {
      paint.setColorFilter(flat)
      paint.setAlphaf(opacity)
      if (softness === 0) return use(paint)
      // What people call soft is about twice the deviation of the blur.
      const deviation = softness / 2
      using(CK.ImageFilter.MakeBlur(deviation, deviation, CK.TileMode.Decal, null), (blur) => {
        paint.setImageFilter(blur)
        use(paint)
      })
    }),
  )
}
