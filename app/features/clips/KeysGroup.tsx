/** The chosen keys in numbers, and how the curve goes through them. */
import type { Ease } from '@marionette/core/clips/easing'
import { keyAt } from '@marionette/core/clips/lookup'
import { moveKeys, setBeyond, setKeys } from '@marionette/core/clips/keyCommands'
import type { Beyond, Clip, ClipLayer, KeyWay, Track } from '@marionette/core/clips/records'
import { counted } from '@marionette/core/kernel/counted'
import { edit } from '@marionette/core/kernel/command'
import { channelOf } from '@marionette/core/puppet/channels'
import { useEditor } from '../../editor/editor'
import { perform, useRestOf } from '../../editor/document'
import { Field, Group } from '../../panels/Group'
import { Button, Hint } from '../../ui/Button'
import { NumberField } from '../../ui/NumberField'
import { Pick } from '../../ui/Pick'
import { setActing, useActing } from './acting'
import { deleteChosen, easeChosen, setWay } from './keying'
import { placeOf } from './rows'

const WAYS: readonly { readonly id: KeyWay; readonly label: string }[] = [
  { id: 'smooth', label: 'Smooth' },
  { id: 'flat', label: 'Flat' },
  { id: 'linear', label: 'Linear' },
  { id: 'stepped', label: 'Stepped' },
  { id: 'custom', label: 'Custom' },
]

const EASES: readonly { readonly id: Ease; readonly label: string; readonly hint: string }[] = [
  { id: 'in', label: 'Ease in', hint: 'Comes to the key slowly' },
  { id: 'out', label: 'Ease out', hint: 'Leaves the key slowly' },
  { id: 'both', label: 'Ease both', hint: 'Comes and leaves slowly' },
  { id: 'strong', label: 'Strong', hint: 'Lingers at the key for long' },
  { id: 'snap', label: 'Snap', hint: 'Comes fast, and is there at once' },
]

const BEYOND: readonly { readonly id: Beyond; readonly label: string }[] = [
  { id: 'hold', label: 'Held' },
  { id: 'repeat', label: 'Repeated' },
  { id: 'offset', label: 'Going on' },
]

/** Keys that are chosen: one in numbers, of several what they have in common. */
export function KeysGroup({ clip, layer }: { clip: Clip; layer: ClipLayer }) {
  const editor = useEditor()
  const keys = useActing((s) => s.keys)
  const puppet = useRestOf()
  const found = keys.flatMap(({ channel, time }) => keyAt(layer.tracks[channel], time) ?? [])
  const [first] = keys
  const [key] = found
  if (!first || !key) return null
  const channel = channelOf(puppet, first.channel)
  const way = found.every((other) => other.way === key.way) ? key.way : null
  const place = { clip: clip.id, layer: layer.id }
  const track = layer.tracks[first.channel]
  const toFrameNumber = (frame: number): void => {
    const shift = frame / clip.rate - key.time
    const args = { ...place, keys: [...keys], seconds: { about: 0, by: 1, shift }, value: { about: 0, by: 1, shift: 0 } }
    if (perform(editor, [edit(moveKeys, args)])) setActing(editor, { keys: keys.map((k) => ({ ...k, time: Math.max(0, k.time + shift) })) })
  }
  const setEnds = (ends: Pick<Track, 'before' | 'after'>): void =>
    void perform(editor, [edit(setBeyond, { ...place, channel: first.channel, ...ends })])
  const title = keys.length === 1 ? placeOf(puppet, first.channel, clip.layers).name : counted(keys.length, 'key')
  return (
    <Group id="clip-keys" title={title}>
      <NumberField
        label="Frame"
        value={Math.round(key.time * clip.rate * 100) / 100}
        min={0}
        digits={0}
        onChange={(v) => v !== null && toFrameNumber(v)}
      />
      {keys.length === 1 && channel && (
        <NumberField
          label="Value"
          value={key.value}
          unit={channel.unit}
          min={channel.min}
          max={channel.max}
          digits={2}
          onChange={(v) => v !== null && perform(editor, [edit(setKeys, { ...place, keys: [{ ...first, value: v }] })])}
        />
      )}
      <Field label="Curve">
        <Pick label="Curve" value={way ?? ''} options={WAYS} onChange={(v) => setWay(editor, v as KeyWay)} />
      </Field>
      <div className="mt-1 flex flex-wrap gap-1" role="group" aria-label="Ease">
        {EASES.map(({ id, label, hint }) => (
          <Hint key={id} label={hint} side="top">
            <button
              type="button"
              className="rounded-md bg-tint px-1.5 text-xs leading-5 hover:text-ink"
              onClick={() => easeChosen(editor, id)}
            >
              {label}
            </button>
          </Hint>
        ))}
      </div>
      {keys.length === 1 && track && (
        <>
          <Field label="Before it all">
            <Pick
              label="Before the first key"
              value={track.before}
              options={BEYOND}
              onChange={(before) => setEnds({ before: before as Beyond, after: track.after })}
            />
          </Field>
          <Field label="After it all">
            <Pick
              label="After the last key"
              value={track.after}
              options={BEYOND}
              onChange={(after) => setEnds({ before: track.before, after: after as Beyond })}
            />
          </Field>
        </>
      )}
      <div className="mt-2 flex gap-1.5">
        <Button small onClick={() => deleteChosen(editor)}>
          Delete {keys.length === 1 ? 'key' : 'keys'}
        </Button>
      </div>
    </Group>
  )
}
