/** What must hold of drawings, pictures and the palette. */
import type { Problem } from '../kernel/problem'
import type { Check } from '../kernel/records'
import type { Drawing, Paint, Swatch } from './records'
import { patternCycle } from './patterns'

const paintsOf = ({ shapes }: Drawing): readonly Paint[] =>
  shapes.flatMap(({ ink, line }) => [ink?.paint, line?.paint].flatMap((paint) => paint ?? []))

/** What follows a swatch shows its colour. */
function swatchProblems(palette: readonly Swatch[], drawings: readonly Drawing[]): Problem[] {
  const colours = new Map(palette.map((s) => [s.id, s.colour]))
  return drawings.flatMap((drawing) =>
    paintsOf(drawing).flatMap((paint) => {
      const colour = paint.kind === 'flat' && paint.swatch !== undefined ? colours.get(paint.swatch) : undefined
      return paint.kind !== 'flat' || colour === undefined || colour === paint.colour
        ? []
        : [{ path: `drawings.${drawing.id}`, message: `shows another colour than its swatch "${paint.swatch}"` }]
    }),
  )
}

/** What must hold of every drawing and picture. */
export const artworkChecks: readonly Check[] = [
  { stage: 'records', needs: ['palette', 'drawings'], find: (p) => swatchProblems(p.palette, Object.values(p.drawings)) },
  {
    stage: 'records',
    needs: ['pictures'],
    find: ({ pictures }) =>
      Object.values(pictures)
        .filter(({ mesh }) => mesh.triangles.length % 3 !== 0 || mesh.triangles.some((v) => 2 * v >= mesh.vertices.length))
        .map(({ id }) => ({ path: `pictures.${id}.mesh`, message: 'has a triangle with a missing vertex' })),
  },
  {
    stage: 'circles',
    needs: ['drawings'],
    find: (puppet) =>
      patternCycle(puppet).map((id) => ({
        path: `drawings.${id}`,
        message: 'is painted with itself, or with drawings in drawings without end',
      })),
  },
]
