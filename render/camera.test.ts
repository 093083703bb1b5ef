import { decode } from 'fast-png'
import { expect, test } from 'vitest'
import { compile } from '@marionette/core/puppet/compile'
import { poseRig } from '@marionette/core/puppet/evaluate'
import { newCamera } from '@marionette/core/staging/camera'
import { importSvg } from '@marionette/formats/svg/import'
import { throughCamera } from './camera'
import { loadCanvasKit } from './node'
import { renderPng } from './png'

const CK = await loadCanvasKit()
const { puppet } = importSvg(
  '<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100"><rect id="post" x="60" y="40" width="20" height="20" fill="#ff0000"/></svg>',
  't',
)
const shot = { ...newCamera({ width: 100, height: 50 }), x: 50, y: 50, zoom: 2 }
const frame = poseRig(compile(puppet), {})

function seen(camera: typeof shot, width = 100) {
  const image = decode(renderPng(CK, frame, { width, background: null, ...throughCamera(camera) }))
  return { ...image, at: (x: number, y: number): number => image.data[(y * image.width + x) * 4 + 3]! }
}

test('a picture through a camera has the shape of its frame, and shows what is in it', () => {
  const { width, height, at } = seen(shot)
  expect([width, height]).toEqual([100, 50])
  // The post begins 10 px right of the middle, which is 20 px of the picture.
  expect(at(68, 25)).toBe(0)
  expect(at(72, 25)).toBe(255)
  expect(at(72, 3)).toBe(0)
  expect(at(72, 8)).toBe(255)
})

test('a camera turned to the left sees things go to the right, and larger pictures are finer', () => {
  const turned = seen({ ...shot, angle: 90 })
  // Right of the middle is below it now; the frame is 25 px high there, and the post begins 20 px down.
  expect(turned.at(50, 48)).toBe(255)
  expect(turned.at(50, 40)).toBe(0)
  const fine = seen(shot, 400)
  expect([fine.width, fine.height, fine.at(4 * 72, 4 * 25)]).toEqual([400, 200, 255])
})
