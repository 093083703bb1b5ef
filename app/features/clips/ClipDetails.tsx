/** Right in Rehearse: the chosen keys, the move that the moment lies in, the clip and its layers. */
import { Eye, EyeOff, Plus, X } from 'lucide-react'
import { lazy, Suspense, useState } from 'react'
import { addLayer, deleteLayer, setClip, setLayer } from '@marionette/core/clips/commands'
import { newLayer } from '@marionette/core/clips/new'
import type { Clip, ClipLayer } from '@marionette/core/clips/records'
import { edit } from '@marionette/core/kernel/command'
import { freshId } from '@marionette/core/kernel/ids'
import { useEditor } from '../../editor/editor'
import { openPuppet, perform } from '../../editor/document'
import { chosen } from '../../panels/chosen'
import { Group } from '../../panels/Group'
import { Button, IconButton } from '../../ui/Button'
import { NumberField } from '../../ui/NumberField'
import { Pick } from '../../ui/Pick'
import { Segments } from '../../ui/Segments'
import { Tick } from '../../ui/Tick'
import { setActing, showMoment, useActing, useClip, useLayer, type Onion } from './acting'
import { accent, addBreakdown, followChain, keyNow } from './keying'
import { spaceEvenly } from './evenSpacing'
import { KeysGroup } from './KeysGroup'
import { keepAsMotion } from './ownMotions'

const Hearing = lazy(() => import('./Hearing'))
const RetimeGroup = lazy(() => import('./RetimeGroup'))

export function ClipDetails() {
  const clip = useClip()
  return clip && <DetailsOf clip={clip} />
}

function DetailsOf({ clip }: { clip: Clip }) {
  const keys = useActing((s) => s.keys)
  const layer = useLayer(clip)
  return (
    <>
      {keys.length > 0 && <KeysGroup clip={clip} layer={layer} />}
      <MoveGroup clip={clip} />
      <OnionGroup />
      <Suspense>
        <Hearing clip={clip} />
      </Suspense>
      <ClipGroup clip={clip} />
      <Suspense>
        <RetimeGroup clip={clip} />
      </Suspense>
      <LayersGroup clip={clip} open={layer.id} />
    </>
  )
}

/** The move between two poses: what lies between them, and what gives it weight. */
function MoveGroup({ clip }: { clip: Clip }) {
  const editor = useEditor()
  const [share, setShare] = useState(50)
  const [amount, setAmount] = useState(20)
  const [frames, setFrames] = useState(4)
  return (
    <Group id="clip-move" title="Between poses">
      <div className="flex gap-1.5">
        <Button small onClick={() => keyNow(editor)}>
          Key what is selected
        </Button>
      </div>
      <div className="mt-2 grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-2">
        <NumberField
          label="Breakdown"
          value={share}
          unit="%"
          min={-100}
          max={200}
          digits={0}
          onChange={(v) => setShare(v ?? 50)}
          onDrag={setShare}
        />
        <Button small onClick={() => addBreakdown(editor, share / 100)}>
          Add
        </Button>
      </div>
      <p className="cap mb-2">0% is the pose before, 100% the pose after. Of what is selected, or of everything.</p>
      <NumberField
        label="Amount"
        value={amount}
        unit="%"
        min={1}
        max={200}
        digits={0}
        onChange={(v) => setAmount(v ?? 20)}
        onDrag={setAmount}
      />
      <NumberField label="Frames" value={frames} min={1} max={48} digits={0} onChange={(v) => setFrames(v ?? 4)} />
      <div className="mt-1.5 flex flex-wrap gap-1.5">
        <Button small disabled={clip.poses.length < 2} onClick={() => accent(editor, 'anticipation', amount / 100, frames)}>
          Anticipation
        </Button>
        <Button small disabled={clip.poses.length < 2} onClick={() => accent(editor, 'overshoot', amount / 100, frames)}>
          Overshoot
        </Button>
        <Button small disabled={clip.poses.length < 2} onClick={() => accent(editor, 'settle', amount / 100, frames)}>
          Settle
        </Button>
        <Button small disabled={clip.poses.length < 2} onClick={() => followChain(editor, frames)}>
          Late limb
        </Button>
      </div>
    </Group>
  )
}

/** Moments before and after, under the puppet. */
function OnionGroup() {
  const editor = useEditor()
  const onion = useActing((s) => s.onion)
  const showsPath = useActing((s) => s.showsPath)
  const set = (given: Partial<Onion>): void => {
    setActing(editor, { onion: { ...onion, ...given } })
    showMoment(editor)
  }
  return (
    <Group id="clip-onion" title="Onion skin and path">
      <Tick checked={showsPath} onChange={(on) => setActing(editor, { showsPath: on })}>
        Path of the selected bone or spot
      </Tick>
      <div className="mt-1 mb-1.5">
        <Button small onClick={() => spaceEvenly(editor)}>
          Even spacing
        </Button>
      </div>
      <Tick checked={onion.isOn} onChange={(isOn) => set({ isOn })}>
        Moments before and after
      </Tick>
      {onion.isOn && (
        <>
          <NumberField label="Before" value={onion.before} min={0} max={8} digits={0} onChange={(v) => set({ before: v ?? 1 })} />
          <NumberField label="After" value={onion.after} min={0} max={8} digits={0} onChange={(v) => set({ after: v ?? 1 })} />
          <NumberField
            label="Strength"
            value={Math.round(onion.strength * 100)}
            unit="%"
            min={5}
            max={100}
            digits={0}
            onChange={(v) => set({ strength: (v ?? 50) / 100 })}
          />
          <Segments
            label="Counted in"
            value={onion.by}
            options={[
              { value: 'keys', label: 'Keys' },
              { value: 'frames', label: 'Frames' },
            ]}
            onChange={(by) => set({ by })}
          />
        </>
      )}
    </Group>
  )
}

const RATES = [12, 24, 25, 30, 50, 60]

function ClipGroup({ clip }: { clip: Clip }) {
  const editor = useEditor()
  const isNormalised = useActing((s) => s.isNormalised)
  const everyFrame = useActing((s) => s.playsEveryFrame)
  const set = (given: Partial<Pick<Clip, 'length' | 'rate' | 'step' | 'range'>>, label: string): void =>
    void perform(editor, [edit(setClip, { clip: clip.id, ...given })], label)
  const playRange = (isOn: boolean): void => {
    const from = Math.min(useActing.of(editor).getState().time, clip.length * 0.9)
    set({ range: isOn ? { from, to: clip.length } : null }, 'Range to play')
  }
  return (
    <Group id="clip" title={clip.name}>
      <NumberField
        label="Length"
        value={clip.length}
        unit="s"
        min={0.1}
        max={3600}
        digits={2}
        step={0.1}
        onChange={(v) => v !== null && set({ length: v }, 'Length of clip')}
      />
      <NumberField
        label="Frames/s"
        value={clip.rate}
        min={1}
        max={240}
        digits={2}
        onChange={(v) => v !== null && set({ rate: v }, 'Frame rate')}
      />
      <div className="mt-1 flex flex-wrap gap-1" role="group" aria-label="Common frame rates">
        {RATES.map((rate) => (
          <button
            key={rate}
            type="button"
            aria-pressed={clip.rate === rate}
            className={`num rounded-md px-1.5 leading-5 ${clip.rate === rate ? 'bg-ink text-panel' : 'bg-tint hover:text-ink'}`}
            onClick={() => set({ rate }, 'Frame rate')}
          >
            {rate}
          </button>
        ))}
      </div>
      <NumberField
        label="Held for"
        value={clip.step}
        unit={clip.step === 1 ? 'frame' : 'frames'}
        rest={1}
        min={1}
        max={24}
        digits={0}
        onChange={(v) => set({ step: v ?? 1 }, 'Frames that pictures are held')}
      />
      <div className="mt-2 flex flex-col gap-1">
        <Tick checked={clip.range !== null} onChange={playRange}>
          Play a range only
        </Tick>
        {clip.range && (
          <>
            <NumberField
              label="From"
              value={clip.range.from}
              unit="s"
              min={0}
              max={clip.range.to - 0.01}
              digits={2}
              step={0.1}
              onChange={(v) => v !== null && clip.range && set({ range: { ...clip.range, from: v } }, 'Range to play')}
            />
            <NumberField
              label="To"
              value={clip.range.to}
              unit="s"
              min={clip.range.from + 0.01}
              max={clip.length}
              digits={2}
              step={0.1}
              onChange={(v) => v !== null && clip.range && set({ range: { ...clip.range, to: v } }, 'Range to play')}
            />
          </>
        )}
        <div className="my-0.5">
          <Button small onClick={() => void keepAsMotion(editor, clip)}>
            Keep as ready motion
          </Button>
        </div>
        <Tick checked={everyFrame} onChange={(on) => setActing(editor, { playsEveryFrame: on })}>
          Play every frame, however long it takes
        </Tick>
        <Tick checked={isNormalised} onChange={(on) => setActing(editor, { isNormalised: on })}>
          Each curve fills the height
        </Tick>
      </div>
    </Group>
  )
}

/** Layers from the top down, as they lie on each other. */
function LayersGroup({ clip, open }: { clip: Clip; open: string }) {
  const editor = useEditor()
  const add = (mode: ClipLayer['mode']): void => {
    const layer = newLayer(freshId('layer'), mode === 'add' ? `Added ${clip.layers.length}` : `Over ${clip.layers.length}`, mode)
    if (perform(editor, [edit(addLayer, { clip: clip.id, layer })])) setActing(editor, { layer: layer.id, keys: [] })
  }
  return (
    <Group id="clip-layers" title="Layers" aside={<span className="cap">{clip.layers.length}</span>}>
      <ul aria-label="Layers of the clip" className="flex flex-col gap-0.5">
        {[...clip.layers].reverse().map((layer) => (
          <LayerRow key={layer.id} clip={clip} layer={layer} isOpen={layer.id === open} />
        ))}
      </ul>
      <div className="mt-2 flex flex-wrap gap-1.5">
        <Button small onClick={() => add('add')}>
          <Plus size={12} /> Additive
        </Button>
        <Button small onClick={() => add('override')}>
          <Plus size={12} /> Overriding
        </Button>
      </div>
    </Group>
  )
}

function LayerRow({ clip, layer, isOpen }: { clip: Clip; layer: ClipLayer; isOpen: boolean }) {
  const editor = useEditor()
  const isBase = clip.layers[0]?.id === layer.id
  const change = (given: Partial<Pick<ClipLayer, 'muted' | 'weight' | 'parts'>>): void =>
    void perform(editor, [edit(setLayer, { clip: clip.id, layer: layer.id, ...given })])
  const names = layer.parts?.map((id) => openPuppet(editor).parts[id]?.name ?? '').join(', ')
  return (
    <li className={`rounded-lg px-1.5 py-0.5 ${isOpen ? 'bg-tint' : ''}`}>
      <div className="flex h-7 items-center gap-1">
        <button
          type="button"
          aria-current={isOpen}
          className={`min-w-0 flex-1 truncate text-left ${isOpen ? 'font-[650]' : ''}`}
          onClick={() => setActing(editor, { layer: layer.id, keys: [] })}
        >
          {layer.name}
        </button>
        <IconButton
          label={layer.muted ? `Show ${layer.name}` : `Leave out ${layer.name}`}
          className="size-6"
          onClick={() => change({ muted: !layer.muted })}
        >
          {layer.muted ? <EyeOff size={13} /> : <Eye size={13} />}
        </IconButton>
        {!isBase && (
          <IconButton
            label={`Delete ${layer.name}`}
            className="size-6"
            onClick={() => void perform(editor, [edit(deleteLayer, { clip: clip.id, layer: layer.id })])}
          >
            <X size={13} />
          </IconButton>
        )}
      </div>
      {isOpen && !isBase && (
        <>
          <NumberField
            label="Weight"
            value={Math.round(layer.weight * 100)}
            unit="%"
            min={0}
            max={100}
            digits={0}
            rest={100}
            onChange={(v) => change({ weight: (v ?? 100) / 100 })}
          />
          <Tick checked={layer.parts !== null} onChange={(on) => change({ parts: on ? [...chosen(editor, 'part')] : null })}>
            {names === undefined ? 'Only the selected parts' : names === '' ? 'Of no part' : `Only ${names}`}
          </Tick>
        </>
      )}
    </li>
  )
}
