/** Pictures through a camera. */
import { cameraMap } from '@marionette/core/staging/camera'
import type { Camera } from '@marionette/core/staging/records'
import type { RegionOptions } from './surface'

/** What of a picture is seen through a camera: its frame, and nothing beside it. */
export const throughCamera = (camera: Camera): Pick<RegionOptions, 'region' | 'map'> => ({
  region: { minX: 0, minY: 0, maxX: camera.width, maxY: camera.height },
  map: cameraMap(camera),
})
