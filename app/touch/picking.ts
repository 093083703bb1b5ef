/** The colour under the pointer, whatever is drawn there. */
import type { Vec } from '@marionette/core/document/schema'
import { assetsOf } from '@marionette/core/document/tree'
import { loadAssets } from '../state/assets'
import { openPuppet } from '../state/document'
import { useTouch } from '../state/touch'
import { orSaid } from '../state/work'
import { colourInWorker } from '../workers/client'

/** Takes the colour of a spot for the ink, or for the line. */
export async function pickColour(spot: Vec, forLine: boolean): Promise<void> {
  const puppet = openPuppet()
  const colour = await orSaid(async () => colourInWorker(puppet, spot, await loadAssets(assetsOf(puppet))))
  if (colour === null) return
  const swatch = puppet.palette.find((s) => s.colour === colour)?.id ?? null
  useTouch.setState(forLine ? { line: colour } : { ink: colour, swatch })
}
