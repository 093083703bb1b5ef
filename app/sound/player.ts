/** Sounds heard along a time: all pieces from a moment on, or a short bit of them while a moment is looked for. */
import type { SoundPiece } from '@marionette/core/clips/records'
import { editorState, type Editor } from '../editor/editor'
import { decoded } from './decoded'

/** Seconds in which a piece comes in and goes out, so that it does not click. */
const FADE = 0.004
/** How long a moment is heard while one is looked for, seconds. */
const GRAIN = 0.09

interface Own {
  context: AudioContext | null
  sources: AudioBufferSourceNode[]
  /** The moment that was heard at a time of the context; null while nothing is. */
  since: { readonly time: number; readonly at: number } | null
  /** Counts what was started: what is decoded too late is not heard any more. */
  starts: number
}

const stateOf = editorState((): Own => ({ context: null, sources: [], since: null, starts: 0 }))

/** A context of its own for each editor, made when something is first heard. */
function contextOf(own: Own): AudioContext | null {
  if (typeof AudioContext === 'undefined') return null
  own.context ??= new AudioContext()
  return own.context
}

const isHeard = (piece: SoundPiece): boolean => !piece.muted && piece.volume > 0

/**
 * Lets pieces be heard from a moment on, until another.
 *
 * @param to seconds of the clip at which all ends
 */
export async function startSounds(editor: Editor, pieces: readonly SoundPiece[], time: number, to: number): Promise<void> {
  const own = stateOf(editor)
  stopSounds(editor)
  const heard = pieces.filter((piece) => isHeard(piece) && piece.at + piece.length > time && piece.at < to)
  const context = heard.length > 0 ? contextOf(own) : null
  if (!context) return
  const start = own.starts
  const begun = performance.now()
  const sounds = await Promise.all(heard.map((piece) => decoded(editor, piece.asset).catch(() => null)))
  await context.resume().catch(() => undefined)
  if (start !== own.starts) return
  // What was decoded meanwhile goes on from where the picture is by now.
  const now = time + (performance.now() - begun) / 1000
  own.since = { time: now, at: context.currentTime }
  heard.forEach((piece, k) => {
    const sound = sounds[k]
    if (sound) schedule(own, context, sound, piece, now, to)
  })
}

function schedule(own: Own, context: AudioContext, sound: AudioBuffer, piece: SoundPiece, now: number, to: number): void {
  const from = Math.max(now, piece.at)
  const until = Math.min(to, piece.at + piece.length)
  if (until <= from) return
  const when = context.currentTime + from - now
  const source = context.createBufferSource()
  const gain = context.createGain()
  source.buffer = sound
  gain.gain.setValueAtTime(0, when)
  gain.gain.linearRampToValueAtTime(piece.volume, when + FADE)
  gain.gain.setValueAtTime(piece.volume, Math.max(when + FADE, when + until - from - FADE))
  gain.gain.linearRampToValueAtTime(0, Math.max(when + 2 * FADE, when + until - from))
  source.connect(gain).connect(context.destination)
  source.start(when, piece.from + from - piece.at, until - from)
  own.sources.push(source)
}

/** Ends all that is heard. */
export function stopSounds(editor: Editor): void {
  const own = stateOf(editor)
  own.starts++
  own.since = null
  for (const source of own.sources.splice(0)) {
    source.stop()
    source.disconnect()
  }
}

/** The moment that is heard just now, seconds of the clip; null where nothing is, or nothing can be. */
export function soundTime(editor: Editor): number | null {
  const { context, since } = stateOf(editor)
  if (!context || !since || context.state !== 'running') return null
  // What leaves the context is heard a little later.
  return since.time + context.currentTime - since.at - (context.outputLatency || 0)
}

/** Lets a moment be heard, shortly. */
export const scrubSounds = (editor: Editor, pieces: readonly SoundPiece[], time: number): Promise<void> =>
  startSounds(editor, pieces, time, time + GRAIN)

/** Ends all that is heard, and lets go of what it was heard through. */
export function closeSounds(editor: Editor): void {
  const own = stateOf(editor)
  stopSounds(editor)
  void own.context?.close()
  own.context = null
}
