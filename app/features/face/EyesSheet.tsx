/** Building eyes: which parts are what, for one eye or both, and how often they blink. */
import { useState } from 'react'
import { builtEyes, eyeProblem, eyesEdits, type EyesPlan } from '@marionette/core/face/eyes'
import { freshId } from '@marionette/core/kernel/ids'
import { openPuppet, usePuppet } from '../../editor/document'
import { NumberField } from '../../ui/NumberField'
import { Segments } from '../../ui/Segments'
import { build } from './building'
import { BuildSheet } from './BuildSheet'
import { Known } from './Known'
import { RolePick } from './RolePick'
import { foundByName } from './roles'
import type { EyeParts } from '@marionette/core/face/eyeParts'
import { useEditor, type Editor } from '../../editor/editor'
import { nth } from '@marionette/core/kernel/sure'

interface Chosen {
  readonly white: string | null
  readonly iris: string | null
  readonly lid: string | null
  readonly lash: string | null
  readonly area: string | null
}

/** Parts of the eye of a side by their names; where sides have none the first counts as right. */
function eyeByNames(editor: Editor, side: 'right' | 'left'): Chosen {
  const named = (what: string): string | null =>
    foundByName(openPuppet(editor), new RegExp(`(?=.*(${what}))(?=.*\\b(${side}|${side.charAt(0)})\\b)`, 'i'))
  return { white: named('white|eyeball'), iris: named('iris|pupil'), lid: named('\\blid|eyelid'), lash: named('lash'), area: named('gaze') }
}

export default function EyesSheet() {
  const editor = useEditor()
  const puppet = usePuppet((p) => p)
  const [eyes, setEyes] = useState(() => [eyeByNames(editor, 'right'), eyeByNames(editor, 'left')] as const)
  const [reach, setReach] = useState(80)
  const [every, setEvery] = useState(3.6)
  const [gaze, setGaze] = useState<EyesPlan['gaze']>('pad')
  const whole = eyes.flatMap((e): EyeParts[] =>
    e.white && e.iris ? [{ white: e.white, iris: e.iris, lid: e.lid, lashes: e.lash ? [e.lash] : [], area: e.area }] : [],
  )
  const problem =
    whole.length === 0 ? 'Choose a white and an iris.' : (whole.map((e) => eyeProblem(puppet, e)).find((p) => p !== null) ?? null)
  const known = builtEyes(puppet, whole)
  const change = (at: number, by: Partial<Chosen>): void =>
    setEyes(eyes.map((e, k) => (k === at ? { ...e, ...by } : e)) as unknown as readonly [Chosen, Chosen])
  const make = (): void => {
    const edits = eyesEdits(openPuppet(editor), { eyes: whole, reach: reach / 100, every, gaze }, known ?? freshId('eyes'))
    build(editor, edits, known ? 'Build the eyes anew' : 'Build eyes')
  }
  return (
    <BuildSheet
      title={known ? 'The eyes' : 'Build eyes'}
      text="Each iris shows inside its white and looks where you say; sliders close the lids, squint and cross the eyes, and they blink by themselves while the puppet plays."
      wide
      problem={problem}
      button={known ? 'Build them anew' : 'Build the eyes'}
      onBuild={make}
    >
      {known && (
        <Known control={`${known}-lids`}>These eyes look and close already. Building them anew replaces what their controls do.</Known>
      )}
      <div className="grid grid-cols-2 gap-8">
        {(['right', 'left'] as const).map((side, k) => (
          <div key={side}>
            <h3 className="mb-1 text-xs font-semibold">{side === 'right' ? 'Right eye, or the only one' : 'Left eye'}</h3>
            <RolePick label="White" of={side} value={nth(eyes, k).white} onChange={(white) => change(k, { white })} />
            <RolePick label="Iris" of={side} value={nth(eyes, k).iris} onChange={(iris) => change(k, { iris })} />
            <RolePick label="Lid" of={side} value={nth(eyes, k).lid} onChange={(lid) => change(k, { lid })} />
            <RolePick label="Lashes" of={side} value={nth(eyes, k).lash} onChange={(lash) => change(k, { lash })} />
            <RolePick label="Stays in" of={side} value={nth(eyes, k).area} onChange={(area) => change(k, { area })} />
          </div>
        ))}
      </div>
      <div className="mt-3 w-72">
        <Segments
          label="What they follow"
          value={gaze}
          options={[
            { value: 'pad', label: 'Follow a pad' },
            { value: 'aim', label: 'Aim at a point' },
          ]}
          onChange={setGaze}
        />
      </div>
      <div className="mt-3 flex gap-6">
        <NumberField
          label="Gaze goes"
          value={reach}
          unit="% of the room"
          min={0}
          max={200}
          digits={0}
          onChange={(v) => v !== null && setReach(v)}
        />
        <NumberField label="Blinks" value={every} unit="s apart" min={0.5} max={60} onChange={(v) => v !== null && setEvery(v)} />
      </div>
    </BuildSheet>
  )
}
