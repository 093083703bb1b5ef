/** Playing, the moment that is looked at, automatic keying, and what is posed and has no key yet. */
import { counted } from '@marionette/core/kernel/counted'
import { ChevronFirst, Pause, Play, Repeat, SkipBack, SkipForward, Spline } from 'lucide-react'
import { Switch } from 'radix-ui'
import type { Clip } from '@marionette/core/clips/records'
import { useEditor } from '../../editor/editor'
import { useKeysFor } from '../../panels/keymap'
import { Button, Hint, IconButton } from '../../ui/Button'
import { seek, setActing, useActing } from './acting'
import { addPose, dropUnkeyed, goToKey, keepAsKeys } from './keying'
import { playOrStop } from './playing'

export function Transport({ clip }: { clip: Clip }) {
  const editor = useEditor()
  const isPlaying = useActing((s) => s.isPlaying)
  const loops = useActing((s) => s.loops)
  const showsCurves = useActing((s) => s.showsCurves)
  const keys = { play: useKeysFor('clip.play'), before: useKeysFor('clip.previousKey'), after: useKeysFor('clip.nextKey') }
  return (
    <div className="flex h-11 flex-none items-center gap-2 px-3" role="toolbar" aria-label="Playing">
      <IconButton label="To the beginning" onClick={() => seek(editor, clip.range?.from ?? 0)}>
        <ChevronFirst size={17} />
      </IconButton>
      <IconButton label="To the key before" keys={keys.before} onClick={() => goToKey(editor, -1)}>
        <SkipBack size={15} />
      </IconButton>
      <Hint label={isPlaying ? 'Stop' : 'Play'} keys={keys.play} side="top">
        <button
          type="button"
          aria-label={isPlaying ? 'Stop' : 'Play'}
          className="grid size-8 flex-none place-items-center rounded-full bg-ink text-panel hover:opacity-90"
          onClick={() => playOrStop(editor)}
        >
          {isPlaying ? <Pause size={15} /> : <Play size={15} />}
        </button>
      </Hint>
      <IconButton label="To the key after" keys={keys.after} onClick={() => goToKey(editor, 1)}>
        <SkipForward size={15} />
      </IconButton>
      <IconButton
        label="Play round and round"
        aria-pressed={loops}
        className={loops ? 'text-ink' : 'opacity-50'}
        onClick={() => setActing(editor, { loops: !loops })}
      >
        <Repeat size={15} />
      </IconButton>
      <Moment clip={clip} />
      <AutoKey />
      <Unkeyed clip={clip} />
      <span className="flex-1" />
      <Button small onClick={() => addPose(editor)}>
        Add pose
      </Button>
      <IconButton
        label="Curves"
        keys={useKeysFor('clip.curves')}
        aria-pressed={showsCurves}
        className={showsCurves ? 'bg-tint text-ink' : ''}
        onClick={() => setActing(editor, { showsCurves: !showsCurves })}
      >
        <Spline size={16} />
      </IconButton>
    </div>
  )
}

/** Where in the clip the moment is, in frames and in seconds. */
function Moment({ clip }: { clip: Clip }) {
  const time = useActing((s) => s.time)
  const dropped = useActing((s) => (s.isPlaying ? s.dropped : 0))
  return (
    <span className="num flex-none whitespace-nowrap text-quiet" data-testid="moment">
      frame <b className="font-semibold text-ink">{Math.round(time * clip.rate)}</b> of {Math.round(clip.length * clip.rate)}
      {'  '}
      <b className="font-semibold text-ink">{time.toFixed(2)}</b> of {clip.length.toFixed(2)} s
      {dropped > 0 && <span title="Pictures left out to keep the time"> · {dropped} left out</span>}
    </span>
  )
}

/** Whether every pose becomes a key at once: in red, as it is alive. */
function AutoKey() {
  const editor = useEditor()
  const isOn = useActing((s) => s.isAutoKey)
  return (
    <label
      className={`flex h-7 flex-none items-center gap-2 rounded-full px-2.5 text-xs font-semibold whitespace-nowrap ${isOn ? 'bg-cord text-on-accent' : 'text-quiet'}`}
    >
      <Switch.Root
        checked={isOn}
        onCheckedChange={(on) => setActing(editor, { isAutoKey: on })}
        className="h-4 w-7 rounded-full bg-twine p-0.5 data-[state=checked]:bg-ink"
      >
        <Switch.Thumb className="block size-3 rounded-full bg-panel transition-transform data-[state=checked]:translate-x-3" />
      </Switch.Root>
      Auto key {isOn ? 'on' : 'off'}
    </label>
  )
}

/** What is posed over the clip and has no key. It stays until it is kept or dropped, whatever moment is looked at. */
function Unkeyed({ clip }: { clip: Clip }) {
  const editor = useEditor()
  const count = Object.keys(clip.loose).length
  const keys = useKeysFor('clip.keepLoose')
  if (count === 0) return null
  return (
    <div
      role="status"
      className="flex h-8 flex-none items-center gap-1.5 rounded-full bg-brass-soft pr-1 pl-3 text-xs whitespace-nowrap"
      data-testid="unkeyed"
    >
      <b className="font-semibold">{counted(count, 'value')} posed, not keyed</b>
      <Hint label="Keys at this moment" keys={keys} side="top">
        <Button small kind="keep" onClick={() => keepAsKeys(editor)}>
          Key
        </Button>
      </Hint>
      <Button small onClick={() => addPose(editor)}>
        As pose
      </Button>
      <Button small onClick={() => dropUnkeyed(editor)}>
        Drop
      </Button>
    </div>
  )
}
