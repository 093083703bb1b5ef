/** Ready motions: chosen by name, fitted to the puppet, and put in as a clip of keys that can be changed like any other. */
import { Plus, Sparkles } from 'lucide-react'
import { useEffect, useMemo, useState } from 'react'
import { Collapsible } from 'radix-ui'
import { addClip } from '@marionette/core/clips/commands'
import { edit } from '@marionette/core/kernel/command'
import { listed } from '@marionette/core/kernel/counted'
import { freshId } from '@marionette/core/kernel/ids'
import { sure } from '@marionette/core/kernel/sure'
import { bakeMotion } from '@marionette/core/motions/bake'
import { bakeKept, type KeptMotion } from '@marionette/core/motions/kept'
import { bodyKindOf } from '@marionette/core/motions/creature'
import { READY_MOTIONS } from '@marionette/core/motions/ready'
import { roleLabel } from '@marionette/core/roles/roles'
import { useEditor, type Editor } from '../../editor/editor'
import { perform, useDocument, useRestOf } from '../../editor/document'
import { Button } from '../../ui/Button'
import { NumberField } from '../../ui/NumberField'
import { Pick } from '../../ui/Pick'
import { Tick } from '../../ui/Tick'
import { freeClipName, openClip } from './acting'
import { forgetMotion, readMotions, useOwnMotions } from './ownMotions'

interface Chosen {
  readonly id: string
  /** Percent of how it was written. */
  readonly strength: number
  readonly speed: number
  readonly mirrored: boolean
}

function addMotion(editor: Editor, { id, strength, speed, mirrored }: Chosen, own: readonly KeptMotion[]): void {
  const motion = READY_MOTIONS.flatMap(({ motions }) => motions).find((m) => m.id === id)
  const kept = own.find((m) => m.id === id)
  const puppet = useDocument.of(editor).getState().history?.puppet
  if (!puppet || !(motion ?? kept)) return
  const manner = { strength: strength / 100, speed: speed / 100, mirrored }
  const clipId = freshId('clip')
  const { clip, missing } = kept ? bakeKept(puppet, kept, manner, clipId) : bakeMotion(puppet, sure(motion), manner, clipId)
  if (clip.layers.every(({ tracks }) => Object.keys(tracks).length === 0))
    return void editor.notify(
      'Nothing in this puppet can play it: its bones need names such as Head, Upper arm left, Hips, Hind leg near, Wing, Tail.',
    )
  if (!perform(editor, [edit(addClip, { clip: { ...clip, name: freeClipName(editor, clip.name) } })], `Add ${clip.name}`)) return
  openClip(editor, clip.id)
  if (missing.length > 0) editor.notify(`Played without ${listed(missing.map(wordOf))}: nothing here plays that role.`)
}

/** What a role or a control is called where it is missing. */
const WORDS: Readonly<Record<string, string>> = {
  mouth: 'a mouth that opens',
  lids: 'lids',
  brows: 'brows',
  mood: 'a mood',
  turn: 'a head that turns',
  gaze: 'a gaze',
  crest: 'a crest',
  bill: 'an upper beak',
  arm: 'arms or claws',
  eye: 'eyes on stalks',
}
const wordOf = (role: string): string => WORDS[role] ?? roleLabel(role).toLowerCase()

export default function ReadyMotions() {
  const editor = useEditor()
  const [isOpen, setOpen] = useState(false)
  const puppet = useRestOf()
  const kind = useMemo(() => bodyKindOf(puppet), [puppet])
  const sets = [...READY_MOTIONS].sort((a, b) => Number(b.kind === kind) - Number(a.kind === kind))
  const [given, setGiven] = useState<Partial<Chosen>>({})
  // The first motion for this kind of body is offered until one is chosen.
  const chosen = { id: sets[0]?.motions[0]?.id ?? '', strength: 100, speed: 100, mirrored: false, ...given }
  const own = useOwnMotions((s) => s.motions)
  useEffect(() => void (isOpen && readMotions(editor)), [editor, isOpen])
  const set = (change: Partial<Chosen>): void => setGiven({ ...given, ...change })
  return (
    <Collapsible.Root open={isOpen} onOpenChange={setOpen} className="pt-1.5 pr-2">
      <Collapsible.Trigger asChild>
        <Button small>
          <Sparkles size={13} /> Ready motions
        </Button>
      </Collapsible.Trigger>
      <Collapsible.Content className="mt-2 flex flex-col gap-0.5">
        <Pick
          label="Ready motion"
          value={chosen.id}
          options={[
            ...own.map(({ id, name }) => ({ id, label: name, group: 'Your own' })),
            ...sets.flatMap(({ label, motions }) => motions.map(({ id, name }) => ({ id, label: name, group: label }))),
          ]}
          onChange={(id) => set({ id })}
        />
        <NumberField
          label="Strength"
          value={chosen.strength}
          unit="%"
          rest={100}
          min={10}
          max={200}
          digits={0}
          onChange={(v) => set({ strength: v ?? 100 })}
        />
        <NumberField
          label="Speed"
          value={chosen.speed}
          unit="%"
          rest={100}
          min={25}
          max={400}
          digits={0}
          onChange={(v) => set({ speed: v ?? 100 })}
        />
        <Tick checked={chosen.mirrored} onChange={(mirrored) => set({ mirrored })}>
          Mirrored
        </Tick>
        <div className="mt-1">
          <Button small kind="ink" onClick={() => addMotion(editor, chosen, own)}>
            <Plus size={13} /> Add as a clip
          </Button>
          {own.some((m) => m.id === chosen.id) && (
            <Button
              small
              className="ml-1.5"
              onClick={() => void forgetMotion(editor, chosen.id).then(() => set({ id: sets[0]?.motions[0]?.id ?? '' }))}
            >
              Forget it
            </Button>
          )}
        </div>
      </Collapsible.Content>
    </Collapsible.Root>
  )
}
