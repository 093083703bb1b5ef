/** The ground line and the camera of the puppet. */
import { Video } from 'lucide-react'
import { cameraIn, type CameraField } from '@marionette/core/staging/channels'
import { setCamera, setGround } from '@marionette/core/staging/commands'
import { ZOOMS, type Camera } from '@marionette/core/staging/records'
import { edit } from '@marionette/core/kernel/command'
import { useEditor } from '../../editor/editor'
import { beginGesture, endGesture, openPuppet, perform, updateGesture, useDocument, usePuppet } from '../../editor/document'
import { Group } from '../../panels/Group'
import { Button } from '../../ui/Button'
import { NumberField } from '../../ui/NumberField'
import { Tick } from '../../ui/Tick'
import { poseCamera, putUpCamera } from './cameraTool'
import { figureBox } from './figure'
import { lookThroughCamera, useLooking } from './looking'

export default function StageGroup() {
  const editor = useEditor()
  const ground = usePuppet((p) => p.stage.ground)
  const camera = usePuppet((p) => p.stage.camera)
  const set = (value: number | null, label: string): void => void perform(editor, [edit(setGround, { ground: value })], label)
  return (
    <Group id="stage" title="Ground and camera">
      <Tick
        checked={ground !== null}
        onChange={(on) => set(on ? Math.round(figureBox(openPuppet(editor)).feet) : null, on ? 'Draw ground line' : 'No ground line')}
      >
        Ground line
      </Tick>
      {ground !== null && (
        <NumberField label="Height" value={ground} unit="px" digits={0} onChange={(v) => v !== null && set(v, 'Move ground line')} />
      )}
      {camera ? (
        <CameraNumbers rest={camera} />
      ) : (
        <div className="mt-1.5">
          <Button small onClick={() => putUpCamera(editor)}>
            <Video size={13} /> Put up a camera
          </Button>
        </div>
      )}
    </Group>
  )
}

const ROWS: readonly {
  readonly field: CameraField
  readonly label: string
  readonly unit: string
  readonly by: number
  readonly digits: number
}[] = [
  { field: 'x', label: 'Across', unit: 'px', by: 1, digits: 0 },
  { field: 'y', label: 'Down', unit: 'px', by: 1, digits: 0 },
  { field: 'zoom', label: 'Zoom', unit: '%', by: 100, digits: 0 },
  { field: 'angle', label: 'Turned', unit: '°', by: 1, digits: 1 },
]

function CameraNumbers({ rest }: { rest: Camera }) {
  const editor = useEditor()
  const puppet = useDocument((s) => s.puppet)
  const isThrough = useLooking((s) => s.isThrough)
  const shot = puppet ? cameraIn(puppet) : null
  if (!shot) return null
  const resize = (given: Partial<Camera>): void =>
    void perform(editor, [edit(setCamera, { camera: { ...rest, ...given } })], 'Size of the frame')
  return (
    <div className="mt-2 border-t border-hair pt-2">
      {ROWS.map(({ field, label, unit, by, digits }) => (
        <NumberField
          key={field}
          label={label}
          value={shot[field] * by}
          rest={rest[field] * by}
          unit={unit}
          digits={digits}
          {...(field === 'zoom' ? { min: ZOOMS.farthest * by, max: ZOOMS.nearest * by } : {})}
          onChange={(v) => perform(editor, [poseCamera(editor, { [field]: v === null ? rest[field] : v / by })])}
          onDrag={(v) => {
            if (useDocument.of(editor).getState().gesture === null) beginGesture(editor, `Camera: ${label}`)
            updateGesture(editor, [poseCamera(editor, { [field]: v / by })])
          }}
          onDragEnd={(kept) => endGesture(editor, kept)}
        />
      ))}
      <NumberField
        label="Frame"
        value={rest.width}
        unit="px"
        min={1}
        max={32768}
        digits={0}
        onChange={(v) => v !== null && resize({ width: v })}
      />
      <NumberField
        label="by"
        value={rest.height}
        unit="px"
        min={1}
        max={32768}
        digits={0}
        onChange={(v) => v !== null && resize({ height: v })}
      />
      <div className="mt-1.5 flex flex-wrap gap-1.5">
        <Button small aria-pressed={isThrough} onClick={() => lookThroughCamera(editor, !isThrough)}>
          <Video size={13} /> Look through it
        </Button>
        <Button small onClick={() => perform(editor, [edit(setCamera, { camera: null })], 'Take the camera away')}>
          Take away
        </Button>
      </div>
      <p className="cap mt-1.5">What it does in a clip is keyed like everything else. The Camera tool moves it on the stage.</p>
    </div>
  )
}
