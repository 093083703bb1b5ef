/** Pictures of any kind that Skia knows, as straight pixels. */
import type { CanvasKit } from 'canvaskit-wasm'
import type { DecodePicture } from '@marionette/formats/layers/single'
import { MOST_PIXELS } from '@marionette/formats/pixels'

/** A decoder for readers of files; gives null for damaged pictures and for those that are too large. */
export const pictureDecoder =
  (CK: CanvasKit): DecodePicture =>
  (bytes) => {
    const image = CK.MakeImageFromEncoded(bytes)
    if (!image) return null
    const [width, height] = [image.width(), image.height()]
    const info = { width, height, alphaType: CK.AlphaType.Unpremul, colorType: CK.ColorType.RGBA_8888, colorSpace: CK.ColorSpace.SRGB }
    const data = width * height > MOST_PIXELS ? null : image.readPixels(0, 0, info)
    image.delete()
    return data ? { width, height, data: data as Uint8Array } : null
  }
