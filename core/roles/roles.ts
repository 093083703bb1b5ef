/**
 * What parts of a creature are: roles, and the words that people use for them.
 *
 * A role is written `upper-arm`, with a side `upper-arm:left`, with a number `leg-2:left`. Sides in roles are always
 * the character's own, whatever the names of parts say.
 */
export type Side = 'left' | 'right'

/** A role that a part can play: its words, and whether there are two of it. */
export interface RoleSpec {
  readonly id: string
  /** In sentence case, without a side. */
  readonly label: string
  /** Whether there are two of it. */
  readonly sided: boolean
  /** Phrases of plain words that mean it for certain, in the singular; the order of words does not count. */
  readonly words: readonly string[]
  /** Phrases that probably mean it. */
  readonly also: readonly string[]
}

const spec = (id: string, sided: boolean, words: string, also = ''): RoleSpec => {
  const label = id.charAt(0).toUpperCase() + id.slice(1).replace(/-/g, ' ')
  const list = (text: string): string[] => text.split(',').map((w) => w.trim()).filter(Boolean) // prettier-ignore
  return { id, label, sided, words: [id.replace(/-/g, ' '), ...list(words)], also: list(also) }
}

/** Every role that names are matched with. */
export const ROLES: readonly RoleSpec[] = [
  // trunk
  spec(
    'torso',
    false,
    'body, trunk, jacket, shirt, coat, dress, tunic, sweater, vest',
    'upper body, main body, top, bust, corpus, robe, shell, carapace',
  ),
  spec('chest', false, 'upper torso, torso upper, thorax, breast, ribcage', 'rib'),
  spec('belly', false, 'abdomen, stomach, lower torso, tummy, waist', 'middle'),
  spec('hips', false, 'hip, pelvis, lower body', 'trouser, short, skirt, pant, bottom'),
  spec('neck', false, 'throat, neck lower, neck upper', ''),
  spec('head', false, 'skull, face shape, head shape, head base', 'face'),
  // limbs of a person
  spec('arm', true, 'whole arm, sleeve', 'limb upper'),
  spec('upper-arm', true, 'arm upper, bicep, shoulder arm, arm top, upper sleeve', 'shoulder, arm 1, arm a'),
  spec('forearm', true, 'lower arm, fore arm, arm lower, arm bottom, lower sleeve', 'elbow, arm 2, arm b'),
  spec('hand', true, 'fist, palm, glove, mitten', 'finger, wrist, arm 3'),
  spec('leg', true, 'whole leg', ''),
  spec('thigh', true, 'upper leg, leg upper, leg top', 'leg 1, leg a'),
  spec('shin', true, 'lower leg, calf, leg lower, leg bottom', 'knee, leg 2, leg b'),
  spec('foot', true, 'shoe, boot, feet, slipper, sandal', 'ankle, toe, leg 3'),
  // face
  spec('hair', false, 'hair back, hair front, fringe, bang, wig', 'lock, strand, ponytail, braid, bun, plait'),
  spec('hat', false, 'cap, helmet, hood, crown, beret', 'headwear'),
  spec('ear', true, '', 'earlobe'),
  spec('eye', true, 'eye white, eyeball, sclera, white eye', 'eye shape'),
  spec('pupil', true, 'eye pupil', 'eye dot'),
  spec('iris', true, 'eye iris', ''),
  spec('upper-lid', true, 'eyelid, lid, eye lid, top lid, lid upper, upper eyelid', 'blink'),
  spec('lower-lid', true, 'bottom lid, lid lower, lower eyelid', ''),
  spec('brow', true, 'eyebrow, eye brow', ''),
  spec('cheek', true, 'blush', ''),
  spec('nose', false, 'snout, muzzle', ''),
  spec('nostril', true, '', ''),
  spec('mouth', false, 'lip, smile', 'mouth line, mouth shape'),
  spec('upper-teeth', false, 'tooth upper, top tooth, upper tooth, tooth top, tooth, teeth', ''),
  spec('lower-teeth', false, 'tooth lower, bottom tooth, lower tooth, tooth bottom', ''),
  spec('tongue', false, '', ''),
  spec('jaw', false, 'chin, mandible, lower jaw', 'mouth bottom'),
  // animals
  spec('upper-beak', false, 'beak top, bill, beak, upper bill, top beak', ''),
  spec('lower-beak', false, 'beak bottom, lower bill, bottom beak, beak lower', ''),
  spec('crest', false, 'comb, tuft, plume', 'head feather'),
  spec('wing', true, 'whole wing', ''),
  spec('wing-upper', true, 'upper wing, wing arm, inner wing, wing inner, wing base, wing coverts', 'wing 1, coverts'),
  spec('wing-lower', true, 'lower wing, wing tip, outer wing, wing outer, wing hand, primary', 'wing 2, flight feather, wing feather'),
  spec('tail', false, 'tail feather, tail base', 'rump'),
  spec('tail-tip', false, 'tail end, tip tail', 'tail 2'),
  spec('front-leg-upper', true, 'upper front leg, front thigh, foreleg upper, front upper leg', 'front leg 1'),
  spec('front-leg-lower', true, 'lower front leg, front shin, foreleg lower, front lower leg', 'front leg 2'),
  spec('front-leg', true, 'foreleg, fore leg', ''),
  spec('front-paw', true, 'front foot, front hoof, forepaw, fore paw', 'paw front'),
  spec(
    'hind-leg-upper',
    true,
    'upper hind leg, back thigh, rear thigh, upper back leg, haunch, hind thigh, hind upper leg, back leg upper, rear leg upper',
    'hind leg 1, back leg 1',
  ),
  spec(
    'hind-leg-lower',
    true,
    'lower hind leg, back shin, rear shin, lower back leg, hind shin, hind lower leg, back leg lower, rear leg lower',
    'hind leg 2, back leg 2',
  ),
  spec('hind-leg', true, 'back leg, rear leg', ''),
  spec('hind-paw', true, 'hind foot, back foot, back paw, rear paw, back hoof, rear hoof, hind hoof, rear foot', 'paw back'),
  spec('claw', true, 'pincer, nipper, chela', ''),
  spec('claw-arm', true, 'pincer arm, arm claw', ''),
  spec('feeler', true, 'antenna, antennae, eye stalk, stalk', ''),
  ...[1, 2, 3, 4].flatMap((n) => [
    spec(`leg-${n}`, true, `walking leg ${n}`, ''),
    spec(`leg-${n}-upper`, true, `upper leg ${n}, thigh ${n}`, ''),
    spec(`leg-${n}-lower`, true, `lower leg ${n}, shin ${n}`, ''),
  ]),
  // what is worn and carried, and what stands around
  spec('scarf', false, 'shawl', 'kerchief, bandana'),
  spec('scarf-tail', false, 'scarf end, scarf tip', ''),
  spec('collar', false, 'ruff', ''),
  spec('bag', false, 'satchel, purse, backpack, pouch', ''),
  spec('strap', false, '', 'sling'),
  spec('belt', false, 'sash', ''),
  spec('cuff', true, '', 'wristband, bracelet'),
  spec('sock', true, 'stocking', ''),
  spec('glasses', false, 'spectacle, goggle', ''),
  spec('shadow', false, 'ground shadow, drop shadow', ''),
  spec('background', false, 'backdrop, bg, scenery, ground, floor', ''),
]

const byId = new Map(ROLES.map((r) => [r.id, r]))

/** A role by its id; null where there is none. */
export const roleOf = (id: string): RoleSpec | null => byId.get(id) ?? null

/** `upper-arm` and `left` as `upper-arm:left`. */
export const roleKey = (role: string, side: Side | null): string => (side ? `${role}:${side}` : role)

/** Role and side of a key; the opposite of `roleKey`. */
export function splitKey(key: string): { role: string; side: Side | null } {
  const [role = '', side] = key.split(':')
  return { role, side: side === 'left' || side === 'right' ? side : null }
}

/** The key of the same role on the other side. */
export const mirroredKey = (key: string): string => {
  const { role, side } = splitKey(key)
  return roleKey(role, side === 'left' ? 'right' : side === 'right' ? 'left' : null)
}

/** A role for people: `Upper arm left`. */
export function roleLabel(key: string): string {
  const { role, side } = splitKey(key)
  const label = byId.get(role)?.label ?? role.charAt(0).toUpperCase() + role.slice(1).replace(/-/g, ' ')
  return side ? `${label} ${side}` : label
}
