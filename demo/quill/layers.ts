/** Quill, the heron at the counter, seen from the side with the head to the viewer's left: layers from bottom to top. */
import type { Brush, Look } from './brush'

export const WIDTH = 960
export const HEIGHT = 1300

/** What Face frames: painted once more with so many pixels to one of the canvas, so that it stays crisp there. */
export const CLOSE_UP: ReadonlySet<string> = new Set([
  'Neck',
  'Lower beak',
  'Beak',
  'Head',
  'Cheek',
  'Eye',
  'Pupil',
  'Eyelid',
  'Brow',
  'Crest',
  'Glasses',
  'Scarf tail',
  'Scarf',
])
export const CLOSE_UP_DENSITY = 2

export interface PaintedLayer {
  readonly name: string
  readonly paint: (brush: Brush) => void
}

export interface PaintedGroup {
  readonly name: string
  /** Bottom to top. */
  readonly children: readonly (PaintedLayer | PaintedGroup)[]
  /** Whether they are alternates, of which the topmost is seen. */
  readonly isSwap: boolean
}

export const isGroup = (layer: PaintedLayer | PaintedGroup): layer is PaintedGroup => 'children' in layer

const look = (light: string, base: string, shade: string, flow: number, length = 26, width = 6, strokes = 5): Look => ({
  light,
  base,
  shade,
  flow,
  length,
  width,
  strokes,
})

const SLATE = look('#8FB0BA', '#6E93A0', '#4B6F7D', 35)
const DEEP = look('#5E8894', '#4A747F', '#2F5560', 40)
const NIGHT = look('#4A7174', '#34575A', '#203B3E', 55)
const CREAM = look('#FBF4E4', '#F3E8D2', '#D3BE9A', 80, 30, 5)
const OCHRE = look('#E9BC6B', '#C9923B', '#93641F', 88, 20, 4)
const BEAK = look('#F3C671', '#E0A544', '#AF7327', 170, 34, 4)
const RUST = look('#CF6A4D', '#B5533A', '#83331F', 20, 24, 6)
const FAR = look('#6B8C96', '#54747F', '#3A5662', 40)
const FAR_LEG = look('#B98C45', '#9E7430', '#6F4E1C', 88, 20, 4)

/** A leg segment as a tapering rod with round ends. */
function rod(x0: number, y0: number, x1: number, y1: number, r0: number, r1: number): string {
  const length = Math.hypot(x1 - x0, y1 - y0)
  const nx = -(y1 - y0) / length
  const ny = (x1 - x0) / length
  const p = (x: number, y: number, r: number): string => `${(x + nx * r).toFixed(1)} ${(y + ny * r).toFixed(1)}`
  return `M${p(x0, y0, r0)} L${p(x1, y1, r1)} A${r1} ${r1} 0 0 0 ${p(x1, y1, -r1)} L${p(x0, y0, -r0)} A${r0} ${r0} 0 0 0 ${p(x0, y0, r0)}Z`
}

/** The foot of a heron: three long toes forward and one back. */
function toes(brush: Brush, x: number, y: number, tone: Look): void {
  for (const [dx, dy, r] of [
    [62, 18, 6],
    [-96, 14, 7],
    [-66, 34, 7],
    [-14, 40, 7],
  ] as const)
    brush.piece(rod(x, y, x + dx, y + dy, 10, r), tone)
  brush.piece(`M${x - 15} ${y}a15 15 0 1 0 30 0a15 15 0 1 0-30 0Z`, tone)
}

/** Rows of feathers that fan out from a line, the last row first, so that the upper ones cover the roots. */
function plumage(
  brush: Brush,
  rows: readonly (readonly [
    x: number,
    y: number,
    count: number,
    dx: number,
    dy: number,
    angle: number,
    turn: number,
    length: number,
    breadth: number,
    tone: Look,
  ])[],
): void {
  for (const [x, y, count, dx, dy, angle, turn, length, breadth, tone] of rows)
    for (let i = count - 1; i >= 0; i--) brush.feather(x + dx * i, y + dy * i, angle + turn * i, length, breadth, tone)
}

const LOWER: Look = { ...BEAK, base: '#CF9139', light: '#E2B05A' }
const LID = look('#E8D9B8', '#D8C49B', '#AD946A', 0, 12, 3, 3)
const MOUTH = look('#7A2F2A', '#5F2322', '#3F1617', 175, 20, 4)
const TONGUE = look('#E08A72', '#CB6A58', '#9C453D', 172, 16, 3)

/** The lower beak lowered, and what is seen between both: there also where it is closed, since it comes from there. */
const opened = (name: string, beak: string, inside: string, tongue: string | null): PaintedGroup => ({
  ...{ name, isSwap: false },
  children: [
    {
      name: 'Inside',
      paint: (b) => {
        b.piece(inside, MOUTH)
        if (tongue) b.piece(tongue, TONGUE)
      },
    },
    { name: 'Horn', paint: (b) => b.piece(beak, LOWER) },
  ],
})

/** The upper lid at one height, with its edge. */
const lid = (name: string, shape: string, edge: string): PaintedLayer => ({
  name,
  paint: (b) => {
    b.piece(shape, LID)
    b.line(edge, '#2B1D1A', 4, 0.9)
  },
})

const NECK =
  'M352 642C346 600 372 560 410 526C452 490 460 458 432 420C404 384 372 346 372 282C372 230 398 186 440 178C484 172 514 204 506 250C498 292 486 316 504 356C530 410 552 450 536 520C524 580 476 640 436 668C402 690 358 680 352 642Z'

export const LAYERS: readonly (PaintedLayer | PaintedGroup)[] = [
  { name: 'Ground shadow', paint: (b) => b.haze('M190 1262a290 22 0 1 0 580 0a290 22 0 1 0-580 0Z', '#3B3024', 12, 0.32) },
  {
    name: 'Wing tip far',
    paint: (b) => {
      plumage(b, [[628, 640, 5, -16, 14, 30, 6, 205, 44, { ...FAR, shade: '#263F49' }]])
      b.piece('M560 590C600 560 660 590 664 640C650 690 590 690 562 660Z', FAR)
    },
  },
  { name: 'Wing far', paint: (b) => b.piece('M430 556C460 500 560 500 612 556C652 606 640 668 590 680C520 690 450 640 430 596Z', FAR) },
  { name: 'Foot far', paint: (b) => toes(b, 596, 1212, FAR_LEG) },
  {
    name: 'Shin far',
    paint: (b) => {
      b.piece(rod(560, 906, 596, 1214, 13, 10), FAR_LEG)
      b.piece('M543 906a17 20 0 1 0 34 0a17 20 0 1 0-34 0Z', FAR_LEG)
    },
  },
  {
    name: 'Thigh far',
    paint: (b) =>
      b.piece(
        'M520 720C560 700 622 730 618 790C612 850 586 900 572 918C560 926 546 922 542 906C532 860 500 800 500 760C502 740 508 728 520 720Z',
        FAR,
      ),
  },
  {
    name: 'Tail',
    paint: (b) => {
      plumage(b, [
        [650, 700, 6, 9, -17, 62, -7, 250, 52, NIGHT],
        [640, 660, 4, 11, -13, 52, -7, 150, 46, DEEP],
      ])
      b.piece('M600 610C660 600 720 640 724 700C700 740 640 730 604 690Z', SLATE)
    },
  },
  { name: 'Foot near', paint: (b) => toes(b, 474, 1232, OCHRE) },
  {
    name: 'Shin near',
    paint: (b) => {
      b.piece(rod(490, 926, 474, 1234, 15, 11), OCHRE)
      b.piece('M470 926a20 23 0 1 0 40 0a20 23 0 1 0-40 0Z', OCHRE)
      for (let y = 980; y < 1210; y += 26) b.line(`M${488 - (y - 926) * 0.052 - 8} ${y}q8 4 16 0`, '#7A5418', 2, 0.5)
    },
  },
  {
    name: 'Thigh near',
    paint: (b) => {
      b.piece(
        'M440 740C490 716 566 740 560 806C552 870 522 926 506 944C494 954 476 950 472 932C458 880 424 820 424 780C424 762 430 748 440 740Z',
        SLATE,
      )
      plumage(b, [[452, 790, 4, 26, 4, 84, 4, 96, 34, SLATE]])
    },
  },
  {
    name: 'Body',
    paint: (b) => {
      b.piece(
        'M372 560C382 486 470 440 580 474C690 512 744 600 716 690C690 772 590 828 486 812C400 796 352 720 356 640C357 610 366 584 372 560Z',
        SLATE,
      )
      plumage(b, [
        [470, 740, 6, 34, -10, 40, -3, 92, 46, SLATE],
        [430, 690, 7, 36, -10, 38, -3, 92, 46, SLATE],
        [404, 640, 7, 38, -10, 36, -3, 92, 46, SLATE],
      ])
    },
  },
  {
    name: 'Chest plume',
    paint: (b) =>
      plumage(b, [
        [392, 640, 5, 13, 8, 104, -6, 190, 30, CREAM],
        [384, 600, 5, 14, 8, 108, -7, 150, 30, CREAM],
      ]),
  },
  {
    name: 'Neck',
    paint: (b) => {
      b.piece(NECK, CREAM)
      b.haze('M520 250C494 300 500 330 518 372C540 430 544 470 528 524C516 566 486 606 462 632L560 632L560 250Z', '#9FB6B8', 14, 0.6, NECK)
      for (const [x, y, a] of [
        [412, 250, 100],
        [404, 296, 88],
        [416, 342, 66],
        [442, 384, 58],
        [466, 428, 74],
        [470, 474, 102],
        [446, 516, 126],
        [414, 550, 132],
      ] as const)
        b.feather(x, y, a, 42, 15, SLATE)
    },
  },
  {
    ...{ name: 'Lower beak', isSwap: true },
    children: [
      opened(
        'Open aa',
        'M306 200C264 224 180 258 70 284C154 278 254 268 324 238C336 222 330 204 306 200Z',
        'M324 198C270 206 200 210 110 212C150 232 184 240 216 244C262 230 300 216 326 212Z',
        'M310 214C256 224 204 232 142 240C196 246 262 240 310 224Z',
      ),
      opened(
        'Round oo',
        'M306 199C268 218 206 240 118 252C180 258 254 256 324 234C336 220 329 203 306 199Z',
        'M324 198C276 204 220 209 150 212C190 226 214 230 240 232C272 222 300 212 325 210Z',
        null,
      ),
      opened(
        'Half ee',
        'M306 198C262 214 172 236 64 250C148 252 252 252 323 232C335 219 328 202 306 198Z',
        'M324 198C270 205 200 209 120 211C160 224 190 230 220 232C264 222 300 212 325 209Z',
        'M308 210C258 216 210 222 156 226C206 230 262 226 308 217Z',
      ),
      opened(
        'Closed mbp',
        'M306 196C260 204 170 212 60 214C140 226 250 232 322 226C334 216 326 200 306 196Z',
        'M324 198C270 203 200 206 112 208C152 211 186 213 216 214C262 213 300 209 326 206Z',
        null,
      ),
    ],
  },
  {
    name: 'Beak',
    paint: (b) => {
      b.piece('M330 150C290 160 160 190 40 208C150 212 260 212 328 206C346 192 346 164 330 150Z', BEAK)
      b.line('M300 178C292 180 282 183 276 186', '#8A5A1C', 5, 0.8)
      b.line('M322 203C250 209 150 210 56 209', '#8A5A1C', 2.5, 0.6)
    },
  },
  {
    name: 'Head',
    paint: (b) => {
      b.piece('M284 190C284 132 340 96 410 104C470 112 512 154 506 206C500 252 450 272 396 264C340 258 286 240 284 190Z', CREAM)
      b.haze('M420 250C460 250 494 232 502 200', '#B9A67F', 10, 0.5)
    },
  },
  { name: 'Cheek', paint: (b) => b.haze('M382 226a26 15 0 1 0 52 0a26 15 0 1 0-52 0Z', '#D9634A', 8, 0.5) },
  {
    name: 'Eye',
    paint: (b) => {
      b.piece('M330 172a28 30 0 1 0 56 0a28 30 0 1 0-56 0Z', look('#FFFFFF', '#FBF6E8', '#DCCFB0', 0, 10, 3, 2))
      b.line('M330 172a28 30 0 1 0 56 0a28 30 0 1 0-56 0Z', '#2B1D1A', 3.5, 0.9)
    },
  },
  {
    name: 'Pupil',
    paint: (b) => {
      b.spot('M334 174a15 17 0 1 0 30 0a15 17 0 1 0-30 0Z', '#2B1D1A')
      b.spot('M339 167a5 5.500 0 1 0 10 0a5 5.500 0 1 0-10 0Z', '#FFFDF8')
    },
  },
  {
    ...{ name: 'Eyelid', isSwap: true },
    children: [
      lid(
        'Closed',
        'M325 176C323 142 343 136 360 137C378 138 394 146 393 176C390 200 374 207 359 207C344 207 328 200 325 176Z',
        'M327 184C336 208 382 208 391 184',
      ),
      lid('Half', 'M325 170C326 141 343 136 360 137C378 138 392 147 393 170C378 182 342 182 325 170Z', 'M325 170C342 182 376 182 393 170'),
      lid('Open', 'M326 168C328 140 344 136 360 137C376 138 390 150 391 170C376 156 344 155 326 168Z', 'M326 168C344 155 376 156 391 170'),
    ],
  },
  { name: 'Brow', paint: (b) => b.piece('M316 132C332 112 372 106 402 122C380 122 350 126 330 140Z', NIGHT) },
  {
    name: 'Crest',
    paint: (b) => {
      plumage(b, [[440, 118, 4, 14, 10, 8, 9, 190, 28, NIGHT]])
      b.piece('M300 136C330 92 400 78 452 98C492 114 512 142 516 168C470 146 430 136 384 136C350 134 322 134 300 136Z', NIGHT)
    },
  },
  {
    name: 'Glasses',
    paint: (b) => {
      b.line('M314 176a44 45 0 1 0 88 0a44 45 0 1 0-88 0Z', '#7A4A24', 7)
      b.line('M402 170C440 160 470 164 494 178', '#7A4A24', 6)
      b.line('M336 150C342 144 350 141 358 141', '#FFFFFF', 4, 0.7)
    },
  },
  {
    name: 'Scarf tail',
    paint: (b) => {
      b.piece('M420 560C452 566 470 590 464 640L474 706L444 694L424 718L408 690L384 700C386 650 392 600 396 574Z', RUST)
      b.line('M412 668C430 676 446 674 462 664', '#F3E8D2', 9, 0.85)
      b.line('M408 640C428 650 446 648 462 636', '#F3E8D2', 9, 0.85)
    },
  },
  {
    name: 'Scarf',
    paint: (b) => {
      b.piece(
        'M366 522C402 552 468 550 520 512C538 500 556 522 554 548C552 566 546 576 536 584C490 620 410 622 368 594C350 578 346 548 352 532C355 522 360 518 366 522Z',
        RUST,
      )
      b.line('M372 560C420 590 490 582 538 540', '#F3E8D2', 11, 0.85)
    },
  },
  {
    name: 'Wing tip near',
    paint: (b) => {
      plumage(b, [[640, 690, 7, -15, 11, 18, 5, 232, 50, NIGHT]])
      b.piece('M540 610C600 590 660 630 668 690C650 750 580 770 536 740C512 700 514 640 540 610Z', DEEP)
    },
  },
  {
    name: 'Wing near',
    paint: (b) => {
      b.piece('M438 600C448 540 530 516 604 552C668 586 690 650 664 706C640 752 570 768 514 744C462 720 430 656 438 600Z', DEEP)
      plumage(b, [
        [500, 700, 5, 30, -6, 34, -4, 96, 44, DEEP],
        [468, 650, 6, 30, -7, 32, -4, 92, 42, DEEP],
        [458, 606, 5, 34, -7, 30, -4, 86, 40, { ...DEEP, base: '#5B8792' }],
      ])
    },
  },
]
