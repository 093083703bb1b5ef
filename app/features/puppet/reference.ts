/** Laying a picture to compare with. */
import { setReference } from '@marionette/core/puppet/puppetCommands'
import { assetHash, sniffPicture } from '@marionette/formats/assets'
import { sendAssets } from '../../editor/assets'
import { openPuppet, perform } from '../../editor/document'
import { edit } from '@marionette/core/kernel/command'
import type { Editor } from '../../editor/editor'

/** Lays a picture over the canvas, as wide or high as it. Throws with a sentence. */
export async function takeReference(editor: Editor, file: File): Promise<void> {
  const bytes = new Uint8Array(await file.arrayBuffer())
  if (!sniffPicture(bytes)) throw new Error('A reference is a PNG, JPEG, WebP or GIF picture.')
  const image = await createImageBitmap(file)
  const { width, height } = image
  image.close()
  const asset = assetHash(bytes)
  await sendAssets(editor, new Map([[asset, bytes]]))
  const { canvas } = openPuppet(editor)
  const scale = Math.min(canvas.width / width, canvas.height / height)
  const [x, y] = [(canvas.width - width * scale) / 2, (canvas.height - height * scale) / 2]
  perform(
    editor,
    [edit(setReference, { reference: { asset, width, height, x, y, scale, opacity: 0.4, over: false, visible: true } })],
    'Lay reference',
  )
}
