import { describe, expect, test } from 'vitest'
import { importSvg } from '@marionette/formats/svg/import'
import { ora, png, psd } from '@marionette/formats/test/bytes'
import { readPuppetFile } from '@marionette/formats/read'
import { autoWeights } from '../binds/autoWeights'
import { brokenInvariants } from '../puppet/invariants'
import { canonicalJson } from '../kernel/json'
import { sequentialIds } from '../kernel/ids'
import type { Part, Puppet } from '../puppet/schema'
import { restBounds } from '../parts/tree'
import { bindBlended, bindWhole } from '../binds/commands'
import { addBone } from '../bones/commands'
import { run } from '../puppet/edit'
import { perform, startHistory, undo } from '../puppet/history'
import { movePart, renamePart, setHome, setPivot } from '../parts/commands'
import { applyUpdate } from './apply'
import { compareVersions, type UpdateEntry } from './match'

const svg = (shapes: string, name = 'v'): Puppet =>
  importSvg(`<svg xmlns="http://www.w3.org/2000/svg" width="300" height="300">${shapes}</svg>`, 'Art', sequentialIds(name), 'art.svg')
    .puppet
const rect = (id: string, x: number, y: number, w = 40, h = 100, fill = '#c64'): string =>
  `<rect id="${id}" x="${x}" y="${y}" width="${w}" height="${h}" fill="${fill}"/>`

const FIRST =
  rect('Body', 100, 100) +
  `<g id="Arm">${rect('Upper', 140, 100, 20, 60)}${rect('Lower', 140, 150, 20, 60)}</g>` +
  rect('Hat', 100, 60, 40, 30)

const partNamed = (puppet: Puppet, name: string): Part => Object.values(puppet.parts).find((p) => p.name === name)!

/** The first version with a rig on it. */
function rigged(): Puppet {
  let puppet = svg(FIRST, 'old')
  puppet = run(puppet, addBone, { id: 'up', name: 'Up', parent: null, start: { x: 150, y: 105 }, end: { x: 150, y: 155 } })
  puppet = run(puppet, addBone, { id: 'low', name: 'Low', parent: 'up', start: { x: 150, y: 155 }, end: { x: 150, y: 205 } })
  puppet = run(puppet, bindWhole, { parts: [partNamed(puppet, 'Hat').id], bone: 'up' })
  const body = partNamed(puppet, 'Body').id
  puppet = run(puppet, bindBlended, { part: body, bones: ['up', 'low'], field: autoWeights(puppet, body, ['up', 'low']) })
  puppet = run(puppet, setPivot, { part: body, pivot: { x: 0, y: 40 } })
  return run(puppet, renamePart, { part: body, name: 'Trunk' })
}

const kinds = (puppet: Puppet, incoming: Puppet, entries: readonly UpdateEntry[]): Record<string, string> =>
  Object.fromEntries(
    entries
      .filter((e) => e.kind !== 'same')
      .map((e) => [
        (e.incoming ? incoming.parts[e.incoming] : puppet.parts[e.present!])!.name,
        e.renamed && e.kind !== 'renamed' ? `${e.kind}, renamed` : e.kind,
      ]),
  )

describe('comparing versions', () => {
  test('an unchanged file shows nothing new, whatever the rigger did', () => {
    const again = svg(FIRST, 'new')
    expect(compareVersions(rigged(), again, 'art.svg').every((e) => e.kind === 'same')).toBe(true)
  })

  test('added, changed, moved, renamed and gone are told apart', () => {
    const next = svg(
      rect('Body', 100, 100, 60, 100) +
        `<g id="Arm">${rect('Upper', 150, 100, 20, 60)}${rect('Forearm', 140, 150, 20, 60)}</g>` +
        rect('Scarf', 90, 90, 60, 10),
      'new',
    )
    const puppet = rigged()
    expect(kinds(puppet, next, compareVersions(puppet, next, 'art.svg'))).toEqual({
      Body: 'changed',
      Upper: 'moved',
      Forearm: 'renamed',
      Scarf: 'added',
      Hat: 'gone',
    })
  })

  test('layers are found by identity, then path, then name, then likeness', () => {
    const next = svg(
      rect('Hat', 100, 60, 40, 30) +
        rect('Body', 100, 100) +
        `<g id="Limb">${rect('Upper', 140, 100, 20, 60)}${rect('Stick', 141, 150, 20, 60)}</g>`,
      'new',
    )
    const puppet = rigged()
    const by = Object.fromEntries(
      compareVersions(puppet, next, 'art.svg').flatMap((e) => (e.incoming ? [[next.parts[e.incoming]!.name, e.by]] : [])),
    )
    expect(by).toMatchObject({ Hat: 'identity', Body: 'identity', Upper: 'identity', Stick: 'likeness', Limb: 'likeness' })
  })
})

describe('taking a version over', () => {
  const next = svg(
    rect('Body', 100, 100, 60, 120) +
      `<g id="Arm">${rect('Upper', 150, 100, 20, 60)}${rect('Lower', 140, 150, 20, 60)}${rect('Cuff', 138, 190, 24, 20)}</g>` +
      rect('Hat', 100, 60, 40, 30, '#234'),
    'new',
  )
  const before = rigged()
  const entries = compareVersions(before, next, 'art.svg')
  const { puppet, edits } = applyUpdate(before, next, entries, new Set(entries.filter((e) => e.kind !== 'gone')), sequentialIds('u'))

  test('the artwork is the new one, in its place', () => {
    expect(brokenInvariants(puppet)).toEqual([])
    const box = restBounds(puppet, partNamed(puppet, 'Trunk').id)!
    for (const [side, value] of Object.entries({ minX: 100, minY: 100, maxX: 160, maxY: 220 }))
      expect(box[side as 'minX']).toBeCloseTo(value, 3)
    expect(restBounds(puppet, partNamed(puppet, 'Upper').id)!.minX).toBeCloseTo(150, 3)
    expect(restBounds(puppet, partNamed(puppet, 'Cuff').id)!.minX).toBeCloseTo(138, 3)
    expect(partNamed(puppet, 'Cuff').parent).toBe(partNamed(puppet, 'Arm').id)
  })

  test('the rig is the old one: bones, binds, pivots, homes and names of the rigger', () => {
    expect(puppet.bones).toEqual(before.bones)
    for (const name of ['Trunk', 'Hat', 'Upper', 'Lower']) {
      const [now, then] = [partNamed(puppet, name), partNamed(before, name)]
      expect({ id: now.id, pivot: now.pivot, home: now.home }).toEqual({ id: then.id, pivot: then.pivot, home: then.home })
    }
    expect(partNamed(puppet, 'Hat').bind).toEqual({ kind: 'whole', bone: 'up' })
  })

  test('weights go over by position', () => {
    const [now, then] = [partNamed(puppet, 'Trunk').bind!, partNamed(before, 'Trunk').bind!]
    if (now.kind !== 'blended' || then.kind !== 'blended') throw new Error('not blended')
    expect(now.field.vertices.length).toBeGreaterThan(100)
    const weightAt = (field: typeof now.field, x: number, y: number): number => {
      let best = Infinity
      let weight = 0
      for (let v = 0; v < field.vertices.length / 2; v++) {
        const d = Math.hypot(field.vertices[2 * v]! - x, field.vertices[2 * v + 1]! - y)
        if (d >= best) continue
        best = d
        weight = 0
        for (let k = field.starts[v]!; k < field.starts[v + 1]!; k++) if (field.bones[k] === 0) weight += field.weights[k]!
      }
      return weight
    }
    for (const y of [-40, -20, 0, 20, 40]) expect(weightAt(now.field, 0, y)).toBeCloseTo(weightAt(then.field, 0, y), 0)
  })

  test('it is one step, and undone the puppet is what it was', () => {
    const history = perform(startHistory(before), edits, 'Update')
    expect(history.changes).toHaveLength(1)
    expect(canonicalJson(undo(history).puppet)).toBe(canonicalJson(before))
  })

  test('after it the same version shows nothing new', () => {
    const again = svg(
      rect('Body', 100, 100, 60, 120) +
        `<g id="Arm">${rect('Upper', 150, 100, 20, 60)}${rect('Lower', 140, 150, 20, 60)}${rect('Cuff', 138, 190, 24, 20)}</g>` +
        rect('Hat', 100, 60, 40, 30, '#234'),
      'third',
    )
    expect(kinds(puppet, again, compareVersions(puppet, again, 'art.svg'))).toEqual({})
  })

  test('only what is ticked is taken', () => {
    const hat = entries.find((e) => e.incoming && next.parts[e.incoming]!.name === 'Hat')!
    const { puppet: one, edits: few } = applyUpdate(before, next, entries, new Set([hat]), sequentialIds('u'))
    expect(few).toHaveLength(1)
    expect(partNamed(one, 'Cuff')).toBeUndefined()
  })

  test('a part that was moved in the rig stays moved, with the new artwork', () => {
    const hat = partNamed(before, 'Hat')
    const moved = run(run(before, setHome, { part: hat.id, home: { ...hat.home, x: hat.home.x + 50, angle: 20 } }), movePart, {
      part: hat.id,
      parent: partNamed(before, 'Arm').id,
      index: 0,
    })
    const found = compareVersions(moved, next, 'art.svg')
    expect(kinds(moved, next, found)['Hat']).toBe('changed')
    const taken = applyUpdate(moved, next, found, new Set(found.filter((e) => e.kind === 'changed')), sequentialIds('u')).puppet
    expect(partNamed(taken, 'Hat').home).toEqual(partNamed(moved, 'Hat').home)
    expect(restBounds(taken, hat.id)!.minX).toBeCloseTo(restBounds(moved, hat.id)!.minX, 3)
  })
})

describe('taking away what is gone', () => {
  const before = rigged()
  const take = (puppet: Puppet, next: Puppet, wanted: (e: UpdateEntry) => boolean) => {
    const found = compareVersions(puppet, next, 'art.svg')
    return applyUpdate(puppet, next, found, new Set(found.filter(wanted)), sequentialIds('u'))
  }

  test('a group goes, and what of it lives on elsewhere stays where it is', () => {
    const next = svg(
      rect('Body', 100, 100) + rect('Upper', 140, 100, 20, 60) + rect('Lower', 140, 150, 20, 60) + rect('Hat', 100, 60, 40, 30),
      'new',
    )
    const arm = partNamed(before, 'Arm').id
    const bent = run(before, bindBlended, { part: arm, bones: ['up', 'low'], field: autoWeights(before, arm, ['up', 'low']) })
    const { puppet } = take(bent, next, (e) => e.kind === 'gone')
    expect(partNamed(puppet, 'Arm')).toBeUndefined()
    expect(brokenInvariants(puppet)).toEqual([])
    for (const name of ['Upper', 'Lower']) {
      const { id, bind } = partNamed(puppet, name)
      expect(restBounds(puppet, id)).toEqual(restBounds(before, id))
      expect(bind).toMatchObject({ kind: 'blended' })
    }
  })

  test('a group goes with all in it that is gone too', () => {
    const next = svg(rect('Body', 100, 100) + rect('Hat', 100, 60, 40, 30), 'new')
    const { puppet } = take(before, next, (e) => e.kind === 'gone')
    expect(Object.values(puppet.parts).map((p) => p.name)).not.toContain('Upper')
    expect(Object.keys(puppet.drawings)).toHaveLength(2)
  })

  test('a group that became one drawing takes it when it is empty, and is named when it is not', () => {
    const next = svg(rect('Body', 100, 100) + rect('Arm', 140, 100, 20, 110) + rect('Hat', 100, 60, 40, 30), 'new')
    const full = take(before, next, (e) => e.kind === 'changed')
    expect(full.left).toEqual(['Arm'])
    expect(partNamed(full.puppet, 'Upper')).toBeDefined()
    const { puppet, left } = take(before, next, () => true)
    expect(left).toEqual([])
    expect(partNamed(puppet, 'Arm')).toMatchObject({ id: partNamed(before, 'Arm').id, content: { kind: 'drawing' }, children: [] })
  })
})

describe('masked layers', () => {
  const colour = [200, 100, 0, 255] as const
  const mask = { box: [10, 10, 20, 10], grey: 255, beyond: 0 } as const
  const body = { name: 'Body', id: 1, box: [0, 0, 60, 60], colour } as const
  const file = (...layers: Parameters<typeof psd>[2]): Puppet =>
    readPuppetFile(psd(80, 80, [body, ...layers]), 'art.psd', { ids: sequentialIds(`m${layers.length}`) }).puppet
  const hand = { name: 'Hand', id: 2, box: [10, 10, 20, 20], colour, mask } as const

  test('an unchanged file shows nothing new', () => {
    expect(kinds(file(hand), file(hand), compareVersions(file(hand), file(hand), 'art.psd'))).toEqual({})
  })

  test('an added layer goes with what it lies on; one that lies apart or behind stays unbound', () => {
    const old = rigged()
    const next = svg(
      FIRST +
        rect('Feather', 110, 50, 10, 30) +
        rect('Button', 112, 180, 6, 6) +
        rect('Cloud', 10, 10, 20, 20) +
        rect('Background', 90, 60, 60, 60),
      'new',
    )
    const entries = compareVersions(old, next, 'art.svg')
    const { puppet } = applyUpdate(old, next, entries, new Set(entries.filter((e) => e.kind === 'added')), sequentialIds('u'))
    const bind = (name: string) => partNamed(puppet, name).bind
    expect(bind('Feather')).toEqual({ kind: 'whole', bone: 'up' })
    expect(bind('Button')).toEqual({ kind: 'whole', bone: 'low' })
    expect(bind('Cloud')).toBeNull()
    expect(bind('Background')).toBeNull()
  })

  test('an added layer is masked as in the file', () => {
    const [before, next] = [file(), file(hand)]
    const entries = compareVersions(before, next, 'art.psd')
    const { puppet } = applyUpdate(before, next, entries, new Set(entries), sequentialIds('u'))
    expect(partNamed(puppet, 'Hand').masks).toEqual([{ shape: partNamed(puppet, 'Hand mask').id, keep: 'inside', by: 'paint' }])
    expect(brokenInvariants(puppet)).toEqual([])
  })

  test('a layer that was given a mask is masked by it', () => {
    const { mask: _, ...bare } = hand
    const [before, next] = [file(bare), file(hand)]
    const entries = compareVersions(before, next, 'art.psd')
    const { puppet } = applyUpdate(before, next, entries, new Set(entries), sequentialIds('u'))
    expect(partNamed(puppet, 'Hand')).toMatchObject({ id: partNamed(before, 'Hand').id, content: { kind: 'group' } })
    expect(partNamed(puppet, 'Hand').masks).toMatchObject([{ keep: 'inside', by: 'paint' }])
    expect(restBounds(puppet, partNamed(puppet, 'Hand picture').id)).toEqual(restBounds(before, partNamed(before, 'Hand').id))
  })
})

describe('pictures', () => {
  const file = (layers: string, pictures: Record<string, Uint8Array>): Puppet =>
    readPuppetFile(ora(`<image w="100" h="100"><stack>${layers}</stack></image>`, pictures), 'art.ora', {
      ids: sequentialIds(`p${layers.length}`),
    }).puppet
  const red = png(20, 30, [200, 0, 0, 255])
  const old = file('<layer name="Hat" src="a.png" x="10" y="5"/><layer name="Body" src="b.png" x="30" y="40"/>', {
    'a.png': red,
    'b.png': png(40, 40, [0, 0, 200, 255]),
  })

  test('equal pixels elsewhere are moved, other pixels changed', () => {
    const next = file(
      '<layer name="Hat" src="a.png" x="14" y="5"/><layer name="Body" src="b.png" x="30" y="40"/><layer name="New" src="a.png"/>',
      { 'a.png': red, 'b.png': png(44, 40, [0, 0, 220, 255]) },
    )
    const entries = compareVersions(old, next, 'art.ora')
    expect(kinds(old, next, entries)).toEqual({ Hat: 'moved', Body: 'changed', New: 'added' })
    const { puppet } = applyUpdate(old, next, entries, new Set(entries), sequentialIds('u'))
    expect(brokenInvariants(puppet)).toEqual([])
    expect(restBounds(puppet, partNamed(puppet, 'Hat').id)).toMatchObject({ minX: 14, maxX: 34 })
    expect(Object.keys(puppet.pictures)).toHaveLength(3)
  })
})
