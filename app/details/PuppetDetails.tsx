/** Details of the puppet itself, when nothing is selected. */
import { movedChannels } from '@marionette/core/document/channels'
import { isFigure } from '@marionette/core/artwork/turning'
import { edit } from '@marionette/core/edit/command'
import { renamePuppet, setCanvas, setNote } from '@marionette/core/edit/puppet'
import { perform, usePuppet } from '../state/document'
import { openTurn } from '../responses/turning'
import { Button } from '../ui/Button'
import { Mark } from '../ui/icons'
import { NumberField } from '../ui/NumberField'
import { ColourField } from '../ui/ColourField'
import { Field, Group } from './Group'
import { ArtworkGroup } from './ArtworkGroup'
import { JointsGroup } from './JointsGroup'
import { NameHeading } from './NameHeading'
import { PaletteGroup } from '../touch/PaletteGroup'
import { ViewsGroup } from '../views/ViewsGroup'
import { GuidesGroup, ReferenceGroup } from './ReferenceGroup'

export function PuppetDetails() {
  const puppet = usePuppet((p) => p)
  const { canvas } = puppet
  const set = (change: Partial<typeof canvas>): void => void perform([edit(setCanvas, { ...canvas, ...change })])
  const posed = movedChannels(puppet).length
  return (
    <>
      <NameHeading
        lead={<Mark size={36} />}
        name={puppet.name}
        note="Puppet"
        onRename={(name) => perform([edit(renamePuppet, { name })])}
      />
      <Group id="puppet" title="About">
        <Field label="Note">
          <input
            key={puppet.note}
            aria-label="Note"
            className="w-full border-b border-hair bg-transparent py-0.5 outline-none focus:border-ink"
            defaultValue={puppet.note}
            placeholder="Who is this?"
            maxLength={500}
            onKeyDown={(e) => {
              e.stopPropagation()
              if (e.key === 'Enter') e.currentTarget.blur()
            }}
            onBlur={(e) => e.target.value !== puppet.note && perform([edit(setNote, { note: e.target.value })])}
          />
        </Field>
        {isFigure(puppet, puppet.root) && (
          <Button small onClick={() => openTurn(puppet.root)}>
            Turn the body…
          </Button>
        )}
        <Field label="Posed">
          <span className="num">{posed === 0 ? 'at rest' : posed === 1 ? '1 channel' : `${posed} channels`}</span>
        </Field>
      </Group>
      <Group id="canvas" title="Canvas">
        <NumberField
          label="Width"
          value={canvas.width}
          unit="px"
          min={1}
          max={32768}
          digits={0}
          onChange={(v) => v !== null && set({ width: v })}
        />
        <NumberField
          label="Height"
          value={canvas.height}
          unit="px"
          min={1}
          max={32768}
          digits={0}
          onChange={(v) => v !== null && set({ height: v })}
        />
        <Field label="Background">
          <ColourField label="Background" value={canvas.background} onChange={(background) => set({ background })} />
        </Field>
      </Group>
      <PaletteGroup />
      <ViewsGroup />
      <JointsGroup />
      <ArtworkGroup />
      <ReferenceGroup />
      <GuidesGroup />
    </>
  )
}
