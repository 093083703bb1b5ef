/** Take away: a PNG of the pose, or the puppet as an archive. */
import { Download } from 'lucide-react'
import { useState } from 'react'
import { toast } from 'sonner'
import { assetsOf } from '@marionette/core/document/tree'
import { ARCHIVE_EXTENSION, ARCHIVE_TYPE, writeArchive } from '@marionette/formats/archive/archive'
import { OPENRASTER_TYPE } from '@marionette/formats/openraster/write'
import { starterSvg } from '@marionette/formats/starter'
import { LARGEST_PICTURE } from '@marionette/render/surface'
import { openPuppet, usePuppet } from '../state/document'
import { loadAssets } from '../state/assets'
import { Button } from '../ui/Button'
import { ColourField } from '../ui/ColourField'
import { NumberField } from '../ui/NumberField'
import { Segments } from '../ui/Segments'
import { Group } from '../details/Group'
import { download, fileStem } from './download'
import { openRasterInWorker } from '../workers/client'
import { leftBehind } from './leftBehind'
import { drawPicture } from './pictures'

/** Runs an export; a failure is said and leaves everything as it is. */
async function attempt(work: () => Promise<string>): Promise<void> {
  try {
    toast.success(`${await work()} was handed to your downloads.`)
  } catch (error) {
    toast.error((error as Error).message)
  }
}

async function takePng(width: number, background: string | null): Promise<string> {
  const puppet = openPuppet()
  const png = await drawPicture(puppet, width, background)
  const name = `${fileStem(puppet.name)}.png`
  download(png, name, 'image/png')
  return name
}

async function takeOpenRaster(kind: 'artwork' | 'starter'): Promise<string> {
  const puppet = openPuppet()
  const bytes = await openRasterInWorker(puppet, await loadAssets(assetsOf(puppet)), kind)
  const name = `${fileStem(puppet.name)}${kind === 'starter' ? '-starter' : ''}.ora`
  download(bytes, name, OPENRASTER_TYPE)
  return name
}

async function takeStarterSvg(): Promise<string> {
  const puppet = openPuppet()
  const name = `${fileStem(puppet.name)}-starter.svg`
  download(new TextEncoder().encode(starterSvg(puppet)), name, 'image/svg+xml')
  return name
}

async function takeArchive(): Promise<string> {
  const puppet = openPuppet()
  const [assets, thumbnail] = await Promise.all([loadAssets(assetsOf(puppet)), drawPicture(puppet)])
  const name = `${fileStem(puppet.name)}${ARCHIVE_EXTENSION}`
  download(writeArchive(puppet, assets, thumbnail), name, ARCHIVE_TYPE)
  return name
}

export default function SendDetails() {
  const canvas = usePuppet((p) => p.canvas)
  const left = usePuppet(leftBehind)
  const [width, setWidth] = useState(Math.round(canvas.width))
  const [colour, setColour] = useState<string | null>(canvas.background)
  const height = Math.round((canvas.height / canvas.width) * width)
  return (
    <>
      <h2 className="mb-1 flex min-h-11 items-center text-[15px]/5 font-[650]">Take away</h2>
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
        <Button kind="ink" className="mt-3 w-full" onClick={() => void attempt(() => takePng(width, colour))}>
          <Download size={15} /> Take PNG
        </Button>
      </Group>
      <Group id="archive" title="Puppet archive">
        <p className="text-xs text-quiet">Everything: artwork, bones, binds and the pose, in one file that opens again here.</p>
        <Button className="mt-3 w-full" onClick={() => void attempt(takeArchive)}>
          <Download size={15} /> Take archive
        </Button>
      </Group>
      <Group id="layers" title="Layers">
        <p className="text-xs text-quiet">The artwork at rest as OpenRaster: parts as layers, groups as groups, without the rig.</p>
        {left !== null && <p className="cap mt-1.5">{left}</p>}
        <Button className="mt-3 w-full" onClick={() => void attempt(() => takeOpenRaster('artwork'))}>
          <Download size={15} /> Take OpenRaster
        </Button>
      </Group>
      <Group id="starter" title="Starter file">
        <p className="text-xs text-quiet">The same structure under the names that templates look for, pale, to be painted over.</p>
        <div className="mt-3 flex gap-2">
          <Button className="flex-1" onClick={() => void attempt(() => takeOpenRaster('starter'))}>
            OpenRaster
          </Button>
          <Button className="flex-1" onClick={() => void attempt(takeStarterSvg)}>
            SVG
          </Button>
        </div>
      </Group>
    </>
  )
}
