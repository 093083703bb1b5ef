/** Export: a PNG of the pose, or the puppet as an archive. */
import { Download } from 'lucide-react'
import { useState } from 'react'
import { assetsOf } from '@marionette/core/parts/tree'
import { WRITABLE, type WritableFormat } from '@marionette/authoring/formats'
import { LARGEST_PICTURE } from '@marionette/render/surface'
import { openPuppet, usePuppet } from '../../editor/document'
import { loadAssets } from '../../editor/assets'
import { Button } from '../../ui/Button'
import { ColourField } from '../../ui/ColourField'
import { NumberField } from '../../ui/NumberField'
import { Tick } from '../../ui/Tick'
import { cameraIn } from '@marionette/core/staging/channels'
import { Segments } from '../../ui/Segments'
import { Group } from '../../panels/Group'
import { download, fileStem } from './download'
import { drawPicture } from './pictures'
import { useEditor, type Editor } from '../../editor/editor'

/** Runs an export; a failure is said and leaves everything as it is. */
async function attempt(editor: Editor, work: () => Promise<string>): Promise<void> {
  try {
    editor.notify.success(`${await work()} was handed to your downloads.`)
  } catch (error) {
    editor.notify.error((error as Error).message)
  }
}

async function takePng(editor: Editor, width: number, background: string | null, isThrough: boolean): Promise<string> {
  const puppet = openPuppet(editor)
  const png = await drawPicture(editor, puppet, width, background, isThrough ? cameraIn(puppet) : null)
  const name = `${fileStem(puppet.name)}.png`
  download(png, name, 'image/png')
  return name
}

/** Writes the puppet in a format and hands it to the browser. */
async function take(editor: Editor, { id, ending, type }: WritableFormat): Promise<string> {
  const puppet = openPuppet(editor)
  const name = `${fileStem(puppet.name)}${ending}`
  download(await editor.jobs.write(puppet, await loadAssets(editor, assetsOf(puppet)), id), name, type)
  return name
}

/** Formats that are offered side by side. */
const GROUPS = [...new Set(WRITABLE.map((f) => f.group))].map((group) => WRITABLE.filter((f) => f.group === group))

function FormatGroup({ formats }: { formats: readonly WritableFormat[] }) {
  const editor = useEditor()
  const [first] = formats
  const lost = usePuppet((p) => first?.loses(p) ?? null)
  if (!first) return null
  return (
    <Group id={first.group} title={first.label}>
      <p className="text-xs text-quiet">{first.keeps}</p>
      {lost !== null && <p className="cap mt-1.5">{lost}</p>}
      <div className="mt-3 flex gap-2">
        {formats.map((format) => (
          <Button key={format.id} className="flex-1" onClick={() => void attempt(editor, () => take(editor, format))}>
            {formats.length === 1 && <Download size={15} />} {format.button}
          </Button>
        ))}
      </div>
    </Group>
  )
}

export default function SendDetails() {
  const editor = useEditor()
  const canvas = usePuppet((p) => p.canvas)
  const [width, setWidth] = useState(Math.round(canvas.width))
  const [colour, setColour] = useState<string | null>(canvas.background)
  const camera = usePuppet((p) => p.stage.camera)
  const [throughCamera, setThrough] = useState(true)
  const isThrough = throughCamera && camera !== null
  const shape = isThrough ? camera : canvas
  const height = Math.round((shape.height / shape.width) * width)
  return (
    <>
      <h2 className="mb-1 flex min-h-11 items-center text-[15px]/5 font-[650]">Export</h2>
      <Group id="png" title="Picture of the pose">
        <NumberField
          label="Width"
          value={width}
          unit="px"
          min={1}
          max={LARGEST_PICTURE}
          digits={0}
          onChange={(v) => v !== null && setWidth(Math.round(v))}
        />
        <p className="cap mb-1 pl-[84px]">
          {width} by {height} pixels
        </p>
        {camera && (
          <div className="mb-2">
            <Tick checked={throughCamera} onChange={setThrough}>
              Through the camera
            </Tick>
          </div>
        )}
        <Segments
          label="Background"
          value={colour === null ? 'transparent' : 'colour'}
          options={[
            { value: 'transparent', label: 'Transparent' },
            { value: 'colour', label: 'Coloured' },
          ]}
          onChange={(v) => setColour(v === 'transparent' ? null : (canvas.background ?? '#ffffff'))}
        />
        {colour !== null && (
          <div className="mt-2">
            <ColourField label="Background colour" value={colour} onChange={setColour} />
          </div>
        )}
        <Button kind="ink" className="mt-3 w-full" onClick={() => void attempt(editor, () => takePng(editor, width, colour, isThrough))}>
          <Download size={15} /> Export PNG
        </Button>
      </Group>
      {GROUPS.map((formats) => (
        <FormatGroup key={formats[0]?.id} formats={formats} />
      ))}
    </>
  )
}
