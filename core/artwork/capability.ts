/** Drawings and pictures, and the palette that they are painted with. */
import type { Capability } from '../kernel/capability'
import { filedKind, listedKind, type Reference } from '../kernel/records'
import { artworkChecks } from './checks'
import * as palette from './palette'

const PAINTS = ['drawings/*/shapes/*/ink/paint', 'drawings/*/shapes/*/line/paint']

const references = PAINTS.flatMap((paint): Reference[] => [
  { at: `${paint}/swatch`, to: 'swatch', says: 'follows', gone: { drop: `${paint}/swatch` } },
  { at: `${paint}/drawing`, to: 'drawing', says: 'is painted with', gone: 'repaired' },
])

/** What drawings, pictures and swatches add to a puppet. */
export const artwork: Capability = {
  name: 'artwork',
  kinds: [
    filedKind('drawing', 'drawing', 'drawings'),
    filedKind('picture', 'picture', 'pictures'),
    listedKind('swatch', 'swatch', 'palette'),
  ],
  references,
  checks: artworkChecks,
  commands: [palette],
}
