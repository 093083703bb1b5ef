/** Details of the puppet itself, when nothing is selected. */
import { counted } from '@marionette/core/kernel/counted'
import { movedChannels } from '@marionette/core/puppet/channels'
import { isFigure } from '@marionette/core/face/turning'
import { renamePuppet, setCanvas, setNote } from '@marionette/core/puppet/puppetCommands'
import { perform, usePuppet } from '../../editor/document'
import { openTurn } from '../responses/turning'
import { Button } from '../../ui/Button'
import { Mark } from '../../ui/icons'
import { NumberField } from '../../ui/NumberField'
import { ColourField } from '../../ui/ColourField'
import { Field, Group } from '../../panels/Group'
import { NameHeading } from '../../panels/NameHeading'
import { edit } from '@marionette/core/kernel/command'
import { useEditor } from '../../editor/editor'

export function PuppetDetails() {
  const editor = useEditor()
  const puppet = usePuppet((p) => p)
  const { canvas } = puppet
  const set = (change: Partial<typeof canvas>): void => void perform(editor, [edit(setCanvas, { ...canvas, ...change })])
  const posed = movedChannels(puppet).length
  return (
    <>
      <NameHeading
        lead={<Mark size={36} />}
        name={puppet.name}
        note="Puppet"
        onRename={(name) => perform(editor, [edit(renamePuppet, { name })])}
      />
      <Group id="puppet" title="About">
        <Field label="Note">
          <textarea
            key={puppet.note}
            aria-label="Note"
            rows={1}
            className="field-sizing-content w-full resize-none border-b border-hair bg-transparent py-0.5 outline-none focus:border-ink"
            defaultValue={puppet.note}
            placeholder="Who is this?"
            maxLength={500}
            onKeyDown={(e) => {
              e.stopPropagation()
              if (e.key === 'Enter') e.currentTarget.blur()
            }}
            onBlur={(e) => e.target.value !== puppet.note && perform(editor, [edit(setNote, { note: e.target.value })])}
          />
        </Field>
        <Field label="Posed">
          <span className="num">{posed === 0 ? 'at rest' : counted(posed, 'channel')}</span>
        </Field>
        {isFigure(puppet, puppet.root) && (
          <div className="mt-2">
            <Button small onClick={() => openTurn(editor, puppet.root)}>
              Turn the body…
            </Button>
          </div>
        )}
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
    </>
  )
}
