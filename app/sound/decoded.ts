/** Sounds of the open puppet as samples: decoded once each by the browser, whatever format they came in. */
import { peaksOf, type Peaks } from '@marionette/core/maths/signal/peaks'
import { loadAssets } from '../editor/assets'
import { editorState, editorStore, useEditor, type Editor } from '../editor/editor'
import { recordOf } from '@marionette/core/kernel/sure'
import { useEffect } from 'react'

/** Rate that sounds are decoded to, samples a second. */
const RATE = 44_100
/** Longest sound that is taken, seconds. */
export const LONGEST_SOUND = 600

const stateOf = editorState(() => ({ decoding: new Map<string, Promise<AudioBuffer>>() }))
/** Outlines by the hash of their sound; null where it cannot be decoded. */
const useOutlines = editorStore<{ readonly outlines: Readonly<Record<string, Peaks | null>> }>(() => ({ outlines: {} }))

/** Decodes a file. Throws Error in one sentence. */
export async function decodeSound(bytes: Uint8Array, name: string): Promise<AudioBuffer> {
  let sound: AudioBuffer
  try {
    // No device is asked for that something could be heard from.
    sound = await new OfflineAudioContext(1, 1, RATE).decodeAudioData(new Uint8Array(bytes).buffer)
  } catch {
    throw new Error(`“${name}” is no sound that this browser can read; WAV, MP3, M4A, OGG and FLAC are sounds.`)
  }
  if (sound.length === 0) throw new Error(`“${name}” holds no sound.`)
  if (sound.duration > LONGEST_SOUND) throw new Error(`“${name}” is longer than ${LONGEST_SOUND / 60} minutes.`)
  return sound
}

/** A sound of the puppet by its hash. Rejects where it cannot be fetched or decoded; it is tried anew the next time. */
export function decoded(editor: Editor, hash: string): Promise<AudioBuffer> {
  const { decoding } = stateOf(editor)
  const known = decoding.get(hash)
  if (known) return known
  const work = loadAssets(editor, [hash]).then((assets) => decodeSound(assets.get(hash) ?? new Uint8Array(), 'The sound'))
  decoding.set(hash, work)
  work.catch(() => decoding.delete(hash))
  return work
}

/** Keeps what was decoded before it was stored. */
export const keepDecoded = (editor: Editor, hash: string, sound: AudioBuffer): void =>
  void stateOf(editor).decoding.set(hash, Promise.resolve(sound))

export const channelsOf = (sound: AudioBuffer): Float32Array[] =>
  Array.from({ length: sound.numberOfChannels }, (_, k) => sound.getChannelData(k))

/** The mean of all channels. */
export function monoOf(sound: AudioBuffer): Float32Array {
  const channels = channelsOf(sound)
  const out = new Float32Array(sound.length)
  for (const samples of channels) for (let k = 0; k < out.length; k++) out[k] = (out[k] ?? 0) + (samples[k] ?? 0) / channels.length
  return out
}

/** The outline of a sound; undefined while it is not here yet, null where it cannot be had. */
export function useOutline(hash: string): Peaks | null | undefined {
  const editor = useEditor()
  const known = useOutlines((s) => (Object.hasOwn(s.outlines, hash) ? recordOf(s.outlines, hash) : undefined))
  useEffect(() => {
    if (known !== undefined) return
    const put = (outline: Peaks | null): void => useOutlines.of(editor).setState((s) => ({ outlines: { ...s.outlines, [hash]: outline } }))
    decoded(editor, hash).then(
      (sound) => put(peaksOf(channelsOf(sound), sound.sampleRate)),
      () => put(null),
    )
  }, [editor, hash, known])
  return known
}
