/** What a part shows, by its id: drawings and pictures are filed apart, but no two of them share an id. */
import type { ArtId, DrawingId, PictureId } from '../kernel/ids'
import type { Drawing, Picture } from './records'

interface Drawings {
  readonly drawings: Readonly<Record<DrawingId, Drawing>>
}

interface Pictures {
  readonly pictures: Readonly<Record<PictureId, Picture>>
}

/** The drawing with an id; undefined where it is that of a picture, or of nothing. */
export const drawingBy = ({ drawings }: Drawings, art: ArtId): Drawing | undefined => drawings[art as DrawingId]

/** The picture with an id; undefined where it is that of a drawing, or of nothing. */
export const pictureBy = ({ pictures }: Pictures, art: ArtId): Picture | undefined => pictures[art as PictureId]
