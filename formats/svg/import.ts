/**
 * SVG to a puppet. What is not understood is listed with its place, never dropped in silence; nothing is run,
 * fetched or expanded without bounds.
 */
import { newPuppet } from '@marionette/core/puppet/new'
import { sequentialIds, type IdSource } from '@marionette/core/kernel/ids'
import type { Affine, Part, Puppet } from '@marionette/core/puppet/schema'
import { DEEPEST_PART } from '@marionette/core/parts/checks'
import { run } from '@marionette/core/puppet/edit'
import { foldGroups, pointlessGroups } from '@marionette/core/parts/nesting'
import { setHome } from '@marionette/core/parts/commands'
import { IDENTITY, placementOf } from '@marionette/core/maths/geometry/affine'
import { withSources } from '../sources'
import { FormatError, type Warning } from '../warnings'
import { Context, type Scope, type ViewSize } from './context'
import { hasLayer, layerPart } from './layers'
import { decodeName } from './names'
import { parseLength } from './numbers'
import { parseAlpha } from './paint'
import { Reader } from './parts'
import { settle } from './settle'
import { inheritable, INITIAL_STYLE } from './style'
import { parseTree, type SvgElement } from './tree'
import { fitBox, fitOrCentre, parseViewBox } from './viewport'
import { addArtwork } from '@marionette/core/puppet/artworkCommands'

/** Groups that group nothing, and the parts whose names were given by a person: what folding needs to know. */
export interface Nesting {
  readonly groups: string[]
  readonly named: string[]
}

export interface SvgImport {
  /** As nested as the file. */
  readonly puppet: Puppet
  readonly nesting: Nesting
  readonly warnings: readonly Warning[]
  /** Bytes of embedded pictures by their hash. */
  readonly assets: ReadonlyMap<string, Uint8Array>
}

const FALLBACK_SIZE = { width: 300, height: 150 }

/**
 * Reads an SVG file into a new puppet.
 *
 * @param ids gives ids; the same source and ids give the same puppet
 * @param file name of the file, kept with each part
 * Throws FormatError where the file is no SVG or cannot be parsed.
 */
export function importSvg(source: string, name: string, ids: IdSource = sequentialIds('svg'), file = `${name}.svg`): SvgImport {
  const root = parseTree(source)
  if (root.name !== 'svg') throw new FormatError(`This is not an SVG drawing: its outermost element is <${root.name.slice(0, 60)}>.`)
  const context = new Context(root, ids)
  const { size, view, place } = readViewport(root, context)
  const title = decodeName(root.children.find((c) => c.name === 'title')?.text ?? '')
  const empty = newPuppet(ids('puppet'), (title || name).slice(0, 200), size)
  readRoot(new Reader(context), root, view, place)
  settle(context)
  const placed = run(empty, setHome, { part: empty.root, home: placementOf(place, { x: 0, y: 0 }) })
  const { parts, drawings, warnings, assets } = context
  if (parts.length === 0) return { puppet: placed, nesting: { groups: [], named: [] }, warnings: [...warnings, EMPTY], assets }
  checkDepth(parts)
  const puppet = withSources(run(placed, addArtwork, { parent: placed.root, parts, drawings: [...drawings.values()] }), file)
  const nesting = { groups: pointlessGroups(puppet, context.named), named: [...context.named] }
  return { puppet, nesting, warnings, assets }
}

/** Throws FormatError where parts lie in groups deeper than a puppet has them. Parts stand behind those that they are in. */
function checkDepth(parts: readonly Part[]): void {
  const depths = new Map<string, number>()
  for (const { id, parent } of parts) {
    const depth = 2 + (parent === null ? 0 : (depths.get(parent) ?? 0))
    if (depth > DEEPEST_PART) throw new FormatError(`The drawing has groups in groups more than ${DEEPEST_PART} levels deep.`)
    depths.set(id, depth - 1)
  }
}

const EMPTY: Warning = { code: 'svg.empty', place: 'the whole file', message: 'there is nothing in it that can be shown' }

/** Folds the groups of an import that group nothing. Applied as an edit of its own it can be undone. */
export const foldImport = (puppet: Puppet, { groups, named }: Nesting): Puppet =>
  groups.length === 0 ? puppet : run(puppet, foldGroups, { groups, named })

/** Reads the outermost element; where it is faded, masked or filtered itself, a part holds everything. */
function readRoot(reader: Reader, root: SvgElement, view: ViewSize, place: Affine): void {
  const { context } = reader
  const style = context.styleOf(root, INITIAL_STYLE)
  const scope: Scope = { style: inheritable(style), view, toCanvas: place, area: false }
  const isFaded = parseAlpha(style['opacity']!) < 1
  if (!isFaded && !hasLayer(style)) return reader.children(root.children, scope, null, null)
  const part = reader.addPart('drawing', [...IDENTITY], null)
  part.opacity = parseAlpha(style['opacity']!)
  reader.children(root.children, scope, part.id, null)
  layerPart(reader, root, style, part, scope)
}

/** Canvas size, the view that percentages are of, and the map from the view box to it. */
function readViewport(root: SvgElement, context: Context): { size: ViewSize; view: ViewSize; place: Affine } {
  const { attributes } = root
  const box = parseViewBox(attributes['viewBox'])
  if (attributes['viewBox'] !== undefined && !box)
    context.warn('svg.viewport', root, `the viewBox "${attributes['viewBox'].slice(0, 60)}" has no extent and was left out`)
  const width = side(root, 'width', context)
  const height = side(root, 'height', context)
  const shape = box ? box.width / box.height : null
  // A side that is not given follows from the other and the view box.
  const size = {
    width: clampSize(width ?? (shape && height ? height * shape : (box?.width ?? FALLBACK_SIZE.width))),
    height: clampSize(height ?? (shape && width ? width / shape : (box?.height ?? FALLBACK_SIZE.height))),
  }
  if (!box) return { size, view: size, place: IDENTITY }
  const room = { x: 0, y: 0, ...size }
  const written = attributes['preserveAspectRatio']
  if (!fitBox(box, room, written))
    context.warn('svg.viewport', root, `preserveAspectRatio "${written?.slice(0, 40)}" was read as xMidYMid meet`)
  return { size, view: box, place: fitOrCentre(box, room, written) }
}

function side(root: SvgElement, name: 'width' | 'height', context: Context): number | null {
  const written = root.attributes[name]
  if (written === undefined || written.trim() === 'auto' || /%\s*$/.test(written)) return null
  const length = parseLength(written)
  if (length !== null && length > 0) return length
  context.warn('svg.viewport', root, `its ${name} "${written.slice(0, 40)}" is no size and was left out`)
  return null
}

const clampSize = (v: number): number => Math.min(32768, Math.max(1, v))
