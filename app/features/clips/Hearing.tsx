/** What is heard in a clip, and what is said. */
import type { Clip } from '@marionette/core/clips/records'
import { MoodInto } from './MoodInto'
import { SoundGroup } from './SoundGroup'
import { SpeakInto } from './SpeakInto'

export default function Hearing({ clip }: { clip: Clip }) {
  return (
    <>
      <SoundGroup clip={clip} />
      <SpeakInto clip={clip} />
      <MoodInto clip={clip} />
    </>
  )
}
