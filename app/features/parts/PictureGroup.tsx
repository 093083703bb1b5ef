/** The picture of a part: its size and its mesh. */
import { useState } from 'react'
import type { Picture } from '@marionette/core/puppet/schema'
import { loadAssets } from '../../editor/assets'
import { perform } from '../../editor/document'
import { NumberField } from '../../ui/NumberField'
import { Field, Group } from '../../panels/Group'
import { edit } from '@marionette/core/kernel/command'
import { setPictureMesh } from '@marionette/core/deformers/meshCommands'
import { useEditor } from '../../editor/editor'
import { sure } from '@marionette/core/kernel/sure'

const FINEST = 4
const COARSEST = 400

export function PictureGroup({ picture }: { picture: Picture }) {
  const editor = useEditor()
  const [busy, setBusy] = useState(false)
  const remesh = async (spacing: number): Promise<void> => {
    setBusy(true)
    try {
      const png = sure((await loadAssets(editor, [picture.asset])).get(picture.asset))
      const mesh = await editor.jobs.mesh(picture, png, spacing)
      perform(editor, [edit(setPictureMesh, { picture: picture.id, mesh })])
    } catch (error) {
      editor.notify.error((error as Error).message)
    } finally {
      setBusy(false)
    }
  }
  return (
    <Group id="picture" title="Picture">
      <Field label="Size">
        <span className="num">
          {picture.width} × {picture.height} px
        </span>
      </Field>
      <Field label="Mesh">
        <span className="num" data-testid="mesh-size">
          {busy ? 'being made…' : `${picture.mesh.triangles.length / 3} triangles`}
        </span>
      </Field>
      <NumberField
        label="Edges"
        value={Math.round(picture.mesh.spacing * 10) / 10}
        unit="px"
        min={FINEST}
        max={COARSEST}
        digits={1}
        onChange={(v) => v !== null && v !== picture.mesh.spacing && void remesh(v)}
      />
    </Group>
  )
}
