/** The picture of a part: its size and its mesh. */
import { useState } from 'react'
import { toast } from 'sonner'
import { setPictureMesh } from '@marionette/core/edit/artwork'
import { edit } from '@marionette/core/edit/command'
import type { Picture } from '@marionette/core/document/schema'
import { loadAssets } from '../state/assets'
import { perform } from '../state/document'
import { NumberField } from '../ui/NumberField'
import { meshInWorker } from '../workers/client'
import { Field, Group } from './Group'

const FINEST = 4
const COARSEST = 400

export function PictureGroup({ picture }: { picture: Picture }) {
  const [busy, setBusy] = useState(false)
  const remesh = async (spacing: number): Promise<void> => {
    setBusy(true)
    try {
      const png = (await loadAssets([picture.asset])).get(picture.asset)!
      const mesh = await meshInWorker(picture, png, spacing)
      perform([edit(setPictureMesh, { picture: picture.id, mesh })])
    } catch (error) {
      toast.error((error as Error).message)
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
