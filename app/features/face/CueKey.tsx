/** The key that shows an alternate: set by pressing it, held or staying. */
import { useState } from 'react'
import { freshId } from '@marionette/core/kernel/ids'
import { deleteCue, setCue } from '@marionette/core/poses/saved'
import { keyOf } from '../posing/cues'
import { perform, usePuppet } from '../../editor/document'
import { edit } from '@marionette/core/kernel/command'
import { useEditor } from '../../editor/editor'

interface CueKeyProps {
  readonly channel: string
  readonly value: number
  /** What it shows, for people. */
  readonly name: string
}

export function CueKey({ channel, value, name }: CueKeyProps) {
  const editor = useEditor()
  const cue = usePuppet((p) => p.cues.find((c) => c.channel === channel && c.value === value))
  const [isAsking, setAsking] = useState(false)
  const set = (key: string, how: 'hold' | 'stay'): void =>
    void perform(editor, [edit(setCue, { cue: { id: cue?.id ?? freshId('cue'), key, channel, value, how } })], `Key for ${name}`)
  const take = (e: React.KeyboardEvent): void => {
    e.stopPropagation()
    if (e.key === 'Escape') return setAsking(false)
    if ((e.key === 'Backspace' || e.key === 'Delete') && cue) perform(editor, [edit(deleteCue, { cue: cue.id })], `No key for ${name}`)
    const key = keyOf(e.nativeEvent)
    if (key === null && e.key !== 'Backspace' && e.key !== 'Delete') return
    e.preventDefault()
    if (key !== null) set(key, cue?.how ?? 'hold')
    setAsking(false)
  }
  const label = isAsking ? 'press' : cue ? cue.key.toUpperCase() : 'key'
  return (
    <span className="absolute top-0.5 right-0.5 flex items-center gap-0.5">
      {cue && !isAsking && (
        <button
          type="button"
          aria-label={`${name} ${cue.how === 'hold' ? 'shows while its key is down' : 'stays until its key is pressed again'}`}
          title={cue.how === 'hold' ? 'While it is down; click to let it stay' : 'Until it is pressed again; click to hold it'}
          className="rounded bg-panel/85 px-1 text-[10px]/[14px] text-quiet"
          onClick={() => set(cue.key, cue.how === 'hold' ? 'stay' : 'hold')}
        >
          {cue.how === 'hold' ? 'hold' : 'stay'}
        </button>
      )}
      <button
        type="button"
        aria-label={`Key that shows ${name}`}
        title="Alt and this key show it. Click and press a letter or digit; Delete takes it away"
        className={`rounded px-1 text-[10px]/[14px] ${isAsking ? 'bg-cord text-on-accent' : cue ? 'bg-panel font-semibold' : 'bg-panel/85 text-quiet opacity-0 group-hover:opacity-100 focus:opacity-100'}`}
        onClick={() => setAsking(true)}
        onKeyDown={(e) => isAsking && take(e)}
        onBlur={() => setAsking(false)}
      >
        {label}
      </button>
    </span>
  )
}
