/** Laying a picture to compare with. */
import { setReference } from '@marionette/core/puppet/puppetCommands'
import { assetHash, sniffPicture } from '@marionette/formats/assets'
import { sendAssets } from '../../editor/assets'
import { openPuppet, perform } from '../../editor/document'
import { edit } from '@marionette/core/kernel/command'
import type { Editor } from '../../editor/editor'

/** Types of pictures that are offered for it. */
export const REFERENCES = 'image/png,image/jpeg,image/webp,image/gif'

/** Lays a chosen picture over the canvas, as wide or high as it; says why where that fails. */
export async function takeReference(editor: Editor, file: File | undefined): Promise<void> {
  if (file) await layReference(editor, file).catch((error: Error) => editor.notify.error(`${file.name}: ${error.message}`))
}

async function layReference(editor: Editor, file: File): Promise<void> {
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
