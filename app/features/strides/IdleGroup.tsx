/** What the puppet does while it does nothing. */
import { edit } from '@marionette/core/kernel/command'
import { deleteIdle, setIdle } from '@marionette/core/idle/commands'
import type { Idle } from '@marionette/core/idle/records'
import { useEditor } from '../../editor/editor'
import { perform, usePuppet } from '../../editor/document'
import { useLiving } from '../../editor/living'
import { Group } from '../../panels/Group'
import { Button } from '../../ui/Button'
import { NumberField } from '../../ui/NumberField'
import { makeIdle, watchLife } from './walking'

export default function IdleGroup() {
  const editor = useEditor()
  const idles = usePuppet((p) => p.idles)
  if (idles.length > 0) return idles.map((idle) => <Living key={idle.id} idle={idle} />)
  return (
    <Group id="idle" title="Idle life">
      <p className="cap mb-1.5">It breathes, shifts its weight, glances and blinks under whatever is played.</p>
      <Button small onClick={() => makeIdle(editor)}>
        Let it live
      </Button>
    </Group>
  )
}

function Living({ idle }: { idle: Idle }) {
  const editor = useEditor()
  const isOn = useLiving((s) => s.isOn)
  // Weight is shifted over feet that a stride knows.
  const walks = usePuppet((p) => p.strides.length > 0)
  const set = (given: Partial<Omit<Idle, 'id'>>, label: string): void =>
    void perform(editor, [edit(setIdle, { id: idle.id, ...given })], label)
  const { breath, shift, blink, glance } = idle
  const row = (
    label: string,
    value: number,
    unit: string,
    max: number,
    digits: number,
    take: (v: number) => Partial<Omit<Idle, 'id'>>,
    min = 0,
  ) => <NumberField key={label} {...{ label, value, unit, min, max, digits }} onChange={(v) => v !== null && set(take(v), label)} />
  return (
    <Group id="idle" title="Idle life">
      <div className="mb-1.5">
        <Button small kind={isOn ? 'ink' : 'line'} aria-pressed={isOn} onClick={() => watchLife(editor, !isOn)}>
          {isOn ? 'Keep still' : 'Watch it'}
        </Button>
      </div>
      {row('Amount', Math.round(100 * idle.amount), '%', 100, 0, (v) => ({ amount: v / 100 }))}
      {row('Breaths', breath.rate, '/min', 120, 0, (v) => ({ breath: { ...breath, rate: v } }), 1)}
      {row('Depth', Math.round(100 * breath.depth), '%', 400, 0, (v) => ({ breath: { ...breath, depth: v / 100 } }))}
      {walks && row('Shifts by', shift.far, 'px', 500, 1, (v) => ({ shift: { ...shift, far: v } }))}
      {walks && row('Shifts every', shift.every, 's', 600, 1, (v) => ({ shift: { ...shift, every: v } }), 0.2)}
      {blink.channel !== null && row('Blinks every', blink.every, 's', 600, 1, (v) => ({ blink: { ...blink, every: v } }), 0.2)}
      {(glance.x ?? glance.y) !== null &&
        row('Glances every', glance.every, 's', 600, 1, (v) => ({ glance: { ...glance, every: v } }), 0.2)}
      {row('Seed', idle.seed, '', 99_999, 0, (v) => ({ seed: Math.round(v) }))}
      <div className="mt-1.5">
        <Button small onClick={() => perform(editor, [edit(deleteIdle, { id: idle.id })], 'Remove idle life')}>
          Remove
        </Button>
      </div>
    </Group>
  )
}
