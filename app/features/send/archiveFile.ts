/** A puppet as a file, without the server: whatever the library cannot take now leaves the browser all the same. */
import type { Puppet } from '@marionette/core/puppet/schema'
import { assetsOf } from '@marionette/core/parts/tree'
import { ARCHIVE_EXTENSION, ARCHIVE_TYPE, writeArchive } from '@marionette/formats/archive/archive'
import { loadAssets } from '../../editor/assets'
import { download, fileStem } from './download'
import type { Editor } from '../../editor/editor'

/** Hands an archive to the browser. Pictures that neither the page nor the library has any more are left out. */
export async function saveAsFile(editor: Editor, puppet: Puppet): Promise<void> {
  const assets = new Map<string, Uint8Array>()
  for (const hash of assetsOf(puppet))
    for (const [known, bytes] of await loadAssets(editor, [hash]).catch(() => [])) assets.set(known, bytes)
  download(writeArchive(puppet, assets), `${fileStem(puppet.name)}${ARCHIVE_EXTENSION}`, ARCHIVE_TYPE)
}
