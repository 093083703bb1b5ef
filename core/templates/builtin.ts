/** The templates that come with the program. Figures are seen from the front, so the left side is on the viewer's right. */
import type { Template, TemplateBone } from './template'
import { mirroredLimits } from '../skeleton/commands'

type Limit = readonly [min: number | null, max: number | null]

interface BoneOptions {
  readonly from?: readonly string[]
  readonly on?: string
  readonly share?: number
  readonly limits?: Limit
  readonly lies?: TemplateBone['lies']
  readonly optional?: boolean
}

const FREE: Limit = [null, null]

function bone(
  key: string,
  name: string,
  parent: string | null,
  of: readonly string[],
  figure: readonly [number, number, number, number],
  colour: number,
  { from = [], on, share = 1, limits = FREE, lies = 'along', optional = false }: BoneOptions = {},
): TemplateBone {
  const [min, max] = limits
  return {
    key,
    name,
    parent,
    of: [...of],
    from: [...from],
    on: on ?? null,
    share,
    lies,
    limits: { min, max },
    colour,
    figure: [...figure],
    optional,
  }
}

/** A bone of the left side and its mirror: angles the other way, figure about x = 50, the next colour. */
function pair(made: TemplateBone): TemplateBone[] {
  const turn = (key: string): string => key.replace(/:left$/, ':right')
  const [sx, sy, ex, ey] = made.figure
  const mirrored: TemplateBone = {
    ...made,
    key: turn(made.key),
    name: made.name.replace(/left$/, 'right'),
    parent: made.parent && turn(made.parent),
    of: made.of.map(turn),
    from: made.from.map(turn),
    on: made.on && turn(made.on),
    limits: mirroredLimits(made.limits),
    colour: made.colour === 3 ? 5 : made.colour === 2 ? 4 : made.colour,
    figure: [100 - sx, sy, 100 - ex, ey],
  }
  return [made, mirrored]
}

const both = (...roles: string[]): string[] => roles.flatMap((r) => [`${r}:left`, `${r}:right`])
const onBone = (target: string, ...roles: string[]): { role: string; bone: string }[] => roles.map((role) => ({ role, bone: target }))

const FACE = [
  'hair',
  'hat',
  'nose',
  'mouth',
  'upper-teeth',
  'tongue',
  'glasses',
  ...both('ear', 'eye', 'pupil', 'iris', 'upper-lid', 'lower-lid', 'brow', 'cheek'),
]

const LEGS = both('thigh', 'leg')

/** A person who stands upright. */
export const PERSON: Template = {
  id: 'person',
  name: 'Person',
  note: 'Two arms, two legs, seen from the front or turned',
  bones: [
    bone('hips', 'Hips', null, ['hips', 'belly', 'torso', 'chest'], [50, 58, 50, 50], 1, { from: LEGS, on: 'spine', share: 0.8 }),
    bone('spine', 'Spine', 'hips', ['belly', 'torso', 'chest'], [50, 50, 50, 42], 1, { on: 'chest', limits: [-35, 35] }),
    bone('chest', 'Chest', 'spine', ['chest', 'torso'], [50, 42, 50, 30], 1, { on: 'neck', share: 1.2, limits: [-35, 35] }),
    bone('neck', 'Neck', 'chest', ['neck'], [50, 30, 50, 25], 6, { on: 'head', limits: [-30, 30], optional: true }),
    bone('head', 'Head', 'neck', ['head'], [50, 25, 50, 8], 6, { from: ['neck', 'torso', 'chest'], limits: [-40, 40] }),
    bone('jaw', 'Jaw', 'head', ['jaw'], [50, 20, 50, 24], 6, { from: ['head'], limits: [-25, 25], optional: true }),
    ...pair(
      bone('upper-arm:left', 'Upper arm left', 'chest', ['upper-arm:left', 'arm:left'], [62, 32, 68, 44], 3, {
        from: ['torso', 'chest'],
        on: 'forearm:left',
        limits: [-70, 170],
      }),
    ),
    ...pair(
      bone('forearm:left', 'Forearm left', 'upper-arm:left', ['forearm:left', 'arm:left'], [68, 44, 72, 56], 3, {
        from: ['upper-arm:left', 'arm:left'],
        on: 'hand:left',
        limits: [-5, 140],
      }),
    ),
    ...pair(
      bone('hand:left', 'Hand left', 'forearm:left', ['hand:left', 'arm:left'], [72, 56, 74, 63], 3, {
        from: ['forearm:left', 'arm:left'],
        share: 0.5,
        limits: [-70, 70],
      }),
    ),
    ...pair(
      bone('thigh:left', 'Thigh left', 'hips', ['thigh:left', 'leg:left'], [56, 58, 57, 74], 2, {
        from: ['hips', 'torso', 'belly', 'chest'],
        on: 'shin:left',
        limits: [-60, 100],
      }),
    ),
    ...pair(
      bone('shin:left', 'Shin left', 'thigh:left', ['shin:left', 'leg:left'], [57, 74, 58, 90], 2, {
        from: ['thigh:left', 'leg:left'],
        on: 'foot:left',
        limits: [-130, 5],
      }),
    ),
    ...pair(
      bone('foot:left', 'Foot left', 'shin:left', ['foot:left', 'leg:left'], [58, 90, 64, 95], 2, {
        from: ['shin:left', 'leg:left'],
        share: 0.35,
        limits: [-40, 40],
      }),
    ),
    bone('scarf-tail', 'Scarf tail', 'chest', ['scarf-tail'], [46, 32, 43, 42], 8, {
      from: ['scarf', 'neck', 'torso'],
      on: 'scarf-tip',
      optional: true,
    }),
    bone('scarf-tip', 'Scarf tip', 'scarf-tail', ['scarf-tail'], [43, 42, 41, 50], 8, { optional: true }),
    bone('bag', 'Bag', 'hips', ['bag'], [64, 54, 64, 64], 4, { from: ['strap', 'torso', 'hips'], optional: true }),
  ],
  carried: [
    ...onBone('head', ...FACE),
    ...onBone('jaw', 'lower-teeth'),
    ...onBone('chest', 'scarf', 'collar', 'strap'),
    ...onBone('hips', 'belt'),
    ...['left', 'right'].flatMap((s) => [...onBone(`forearm:${s}`, `cuff:${s}`), ...onBone(`shin:${s}`, `sock:${s}`)]),
  ],
  order: [
    ...both('thigh', 'shin', 'sock', 'foot'),
    'hips',
    'neck',
    'torso',
    'chest',
    'strap',
    'bag',
    ...both('upper-arm', 'forearm', 'hand'),
    'head',
    'scarf',
    'scarf-tail',
  ],
}

/** A bird with wings. */
export const BIRD: Template = {
  id: 'bird',
  name: 'Bird',
  note: 'Body, long or short neck, beak, two wings, two legs, a tail',
  bones: [
    bone('body', 'Body', null, ['torso', 'belly'], [46, 58, 58, 46], 1, { from: ['tail'], on: 'neck-1' }),
    bone('neck-1', 'Neck root', 'body', ['neck'], [58, 46, 57, 38], 6, {
      from: ['torso', 'chest', 'belly'],
      on: 'neck-2',
      limits: [-60, 60],
      optional: true,
    }),
    bone('neck-2', 'Neck', 'neck-1', ['neck'], [57, 38, 62, 30], 6, { on: 'neck-3', limits: [-60, 60], optional: true }),
    bone('neck-3', 'Neck top', 'neck-2', ['neck'], [62, 30, 62, 22], 6, { on: 'head', limits: [-60, 60], optional: true }),
    bone('head', 'Head', 'neck-3', ['head'], [62, 22, 70, 15], 6, { from: ['neck', 'torso'], limits: [-60, 60] }),
    bone('upper-beak', 'Beak', 'head', ['upper-beak'], [72, 18, 88, 18], 7, { from: ['head'], limits: [-12, 25], optional: true }),
    bone('lower-beak', 'Lower beak', 'head', ['lower-beak'], [72, 20, 87, 21], 7, { from: ['head'], limits: [-25, 12], optional: true }),
    ...pair(
      bone('wing-upper:left', 'Wing left', 'body', ['wing-upper:left', 'wing:left'], [62, 46, 74, 52], 3, {
        from: ['torso', 'belly', 'chest'],
        on: 'wing-lower:left',
        limits: [-120, 120],
        optional: true,
      }),
    ),
    ...pair(
      bone('wing-lower:left', 'Wing tip left', 'wing-upper:left', ['wing-lower:left', 'wing:left'], [74, 52, 84, 64], 3, {
        from: ['wing-upper:left', 'wing:left'],
        limits: [-120, 120],
        optional: true,
      }),
    ),
    bone('tail', 'Tail', 'body', ['tail'], [46, 58, 34, 66], 8, {
      from: ['torso', 'belly'],
      on: 'tail-tip',
      limits: [-60, 60],
      optional: true,
    }),
    bone('tail-tip', 'Tail tip', 'tail', ['tail-tip'], [34, 66, 28, 70], 8, { from: ['tail'], limits: [-60, 60], optional: true }),
    ...pair(
      bone('thigh:left', 'Thigh left', 'body', ['thigh:left', 'leg:left'], [54, 60, 54, 72], 2, {
        from: ['torso', 'belly'],
        on: 'shin:left',
        limits: [-60, 60],
      }),
    ),
    ...pair(
      bone('shin:left', 'Shin left', 'thigh:left', ['shin:left', 'leg:left'], [54, 72, 54, 90], 2, {
        from: ['thigh:left', 'leg:left'],
        on: 'foot:left',
        limits: [-90, 90],
      }),
    ),
    ...pair(
      bone('foot:left', 'Foot left', 'shin:left', ['foot:left', 'leg:left'], [54, 90, 62, 95], 2, {
        from: ['shin:left', 'leg:left'],
        share: 0.3,
        limits: [-60, 60],
      }),
    ),
  ],
  carried: [
    ...onBone('head', 'crest', ...FACE),
    ...onBone('neck-1', 'scarf', 'collar'),
    ...onBone('body', 'chest', 'bag', 'strap', 'belt'),
  ],
  order: [
    'wing-lower:right',
    'wing-upper:right',
    'thigh:right',
    'shin:right',
    'foot:right',
    'tail',
    'thigh:left',
    'shin:left',
    'foot:left',
    'torso',
    'neck',
    'lower-beak',
    'upper-beak',
    'head',
    'crest',
    'wing-lower:left',
    'wing-upper:left',
  ],
}

/** An animal on four legs. */
export const FOUR_LEGGED: Template = {
  id: 'four-legged',
  name: 'Four-legged animal',
  note: 'Seen from the side, head to the viewer’s left or right',
  bones: [
    bone('hips', 'Hips', null, ['hips', 'torso', 'belly'], [72, 44, 56, 42], 1, {
      from: ['tail', ...both('hind-leg-upper', 'hind-leg')],
      on: 'chest',
    }),
    bone('chest', 'Chest', 'hips', ['chest', 'torso', 'belly'], [56, 42, 36, 42], 1, { on: 'neck', limits: [-35, 35] }),
    bone('neck', 'Neck', 'chest', ['neck'], [36, 42, 28, 30], 6, {
      from: ['torso', 'chest'],
      on: 'head',
      limits: [-50, 50],
      optional: true,
    }),
    bone('head', 'Head', 'neck', ['head'], [28, 30, 14, 30], 6, { from: ['neck', 'torso', 'chest'], limits: [-50, 50] }),
    bone('jaw', 'Jaw', 'head', ['jaw'], [24, 34, 15, 36], 6, { from: ['head'], limits: [-30, 10], optional: true }),
    ...pairFour('front', 40, 3),
    ...pairFour('hind', 70, 2),
    bone('tail', 'Tail', 'hips', ['tail'], [72, 44, 84, 36], 8, {
      from: ['torso', 'hips'],
      on: 'tail-tip',
      limits: [-80, 80],
      optional: true,
    }),
    bone('tail-tip', 'Tail tip', 'tail', ['tail-tip', 'tail'], [84, 36, 94, 30], 8, { from: ['tail'], limits: [-80, 80], optional: true }),
  ],
  carried: [...onBone('head', 'crest', ...FACE), ...onBone('jaw', 'lower-teeth'), ...onBone('neck', 'collar', 'scarf')],
  order: ['tail', ...both('hind-leg-upper', 'hind-leg-lower', 'hind-paw').filter((r) => r.endsWith('right')), 'torso', 'neck', 'head'],
}

function pairFour(which: 'front' | 'hind', x: number, colour: number): TemplateBone[] {
  const leg = `${which}-leg`
  const name = which === 'front' ? 'Front' : 'Hind'
  const body = which === 'front' ? ['chest', 'torso', 'belly'] : ['hips', 'torso', 'belly']
  const parent = which === 'front' ? 'chest' : 'hips'
  const side = (s: 'left' | 'right', at: number, c: number): TemplateBone[] => [
    bone(`${leg}-upper:${s}`, `${name} leg upper ${s}`, parent, [`${leg}-upper:${s}`, `${leg}:${s}`], [at, 50, at + 1, 66], c, {
      from: body,
      on: `${leg}-lower:${s}`,
      limits: [-60, 60],
    }),
    bone(
      `${leg}-lower:${s}`,
      `${name} leg lower ${s}`,
      `${leg}-upper:${s}`,
      [`${leg}-lower:${s}`, `${leg}:${s}`],
      [at + 1, 66, at, 84],
      c,
      { from: [`${leg}-upper:${s}`], on: `${which}-paw:${s}`, limits: [-100, 100] },
    ),
    bone(`${which}-paw:${s}`, `${name} paw ${s}`, `${leg}-lower:${s}`, [`${which}-paw:${s}`, `${leg}:${s}`], [at, 84, at - 5, 90], c, {
      from: [`${leg}-lower:${s}`, `${leg}:${s}`],
      share: 0.35,
      limits: [-60, 60],
      optional: true,
    }),
  ]
  return [...side('left', x, colour), ...side('right', x + 8, colour + 2)]
}

/** A creature with more legs than four. */
export const MANY_LEGGED: Template = {
  id: 'many-legged',
  name: 'Many-legged creature',
  note: 'A body on up to four pairs of legs, with claws and feelers',
  bones: [
    bone('body', 'Body', null, ['torso', 'belly', 'chest'], [50, 62, 50, 40], 1),
    bone('head', 'Head', 'body', ['head'], [50, 40, 50, 26], 6, { from: ['torso'], limits: [-40, 40], optional: true }),
    ...pair(
      bone('feeler:left', 'Feeler left', 'body', ['feeler:left'], [56, 38, 62, 20], 7, {
        from: ['head', 'torso'],
        limits: [-60, 60],
        optional: true,
      }),
    ),
    ...pair(
      bone('claw-arm:left', 'Claw arm left', 'body', ['claw-arm:left', 'upper-arm:left', 'arm:left'], [66, 48, 80, 40], 3, {
        from: ['torso'],
        on: 'claw:left',
        limits: [-90, 90],
        optional: true,
      }),
    ),
    ...pair(
      bone('claw:left', 'Claw left', 'claw-arm:left', ['claw:left', 'hand:left'], [80, 40, 86, 26], 3, {
        from: ['claw-arm:left', 'upper-arm:left', 'arm:left', 'torso'],
        limits: [-70, 70],
        optional: true,
      }),
    ),
    ...[1, 2, 3, 4].flatMap((n) => legPair(n)),
  ],
  carried: [...onBone('body', 'bag', 'hips', 'belt', ...FACE), ...onBone('head', 'crest')],
  order: [
    ...[4, 3, 2, 1].flatMap((n) => both(`leg-${n}-lower`, `leg-${n}-upper`, `leg-${n}`)),
    'torso',
    'head',
    ...both('claw-arm', 'claw', 'feeler'),
  ],
}

function legPair(n: number): TemplateBone[] {
  const y = 46 + 8 * n
  const options = { limits: [-70, 70] as const, optional: n > 3 }
  return [
    ...pair(
      bone(`leg-${n}-upper:left`, `Leg ${n} upper left`, 'body', [`leg-${n}-upper:left`, `leg-${n}:left`], [66, y - 4, 80, y - 8], 2, {
        ...options,
        from: ['torso'],
        on: `leg-${n}-lower:left`,
      }),
    ),
    ...pair(
      bone(
        `leg-${n}-lower:left`,
        `Leg ${n} lower left`,
        `leg-${n}-upper:left`,
        [`leg-${n}-lower:left`, `leg-${n}:left`],
        [80, y - 8, 92, y + 8],
        2,
        { ...options, from: [`leg-${n}-upper:left`] },
      ),
    ),
  ]
}

const feature = (
  key: string,
  name: string,
  of: readonly string[],
  figure: readonly [number, number, number, number],
  colour: number,
): TemplateBone => bone(key, name, 'head', of, figure, colour, { lies: 'centre', optional: true })

/** A face alone. */
export const FACE_TEMPLATE: Template = {
  id: 'face',
  name: 'Face',
  note: 'A head by itself: jaw, eyes, brows, ears and mouth can be moved',
  bones: [
    bone('head', 'Head', null, ['head'], [50, 92, 50, 10], 6),
    bone('jaw', 'Jaw', 'head', ['jaw'], [50, 72, 50, 90], 6, { from: ['head'], limits: [-30, 30], optional: true }),
    feature('mouth', 'Mouth', ['mouth'], [50, 74, 50, 68], 7),
    feature('nose', 'Nose', ['nose'], [50, 58, 50, 50], 7),
    ...pair(feature('eye:left', 'Eye left', ['pupil:left', 'iris:left', 'eye:left'], [68, 46, 68, 40], 3)),
    ...pair(feature('brow:left', 'Brow left', ['brow:left'], [68, 32, 68, 26], 2)),
    ...pair(feature('ear:left', 'Ear left', ['ear:left'], [92, 50, 92, 40], 8)),
    bone('hair', 'Hair', 'head', ['hair'], [50, 14, 50, 4], 8, { from: ['head'], limits: [-60, 60], optional: true }),
  ],
  carried: [
    ...onBone('head', 'hat', 'glasses', 'upper-teeth', ...both('cheek', 'upper-lid', 'lower-lid', 'eye')),
    ...onBone('jaw', 'lower-teeth', 'tongue'),
  ],
  order: ['hair', ...both('ear'), 'head', 'jaw', ...both('cheek', 'eye', 'iris', 'pupil', 'upper-lid', 'brow'), 'nose', 'mouth', 'hat'],
}

/** The templates that come with the program. */
export const TEMPLATES: readonly Template[] = [PERSON, FOUR_LEGGED, BIRD, MANY_LEGGED, FACE_TEMPLATE]
