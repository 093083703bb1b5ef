/** Work on areas of the stage. Loaded when an area is first selected: the package behind it is larger than the rest of the tool. */
export { combineSelection, offsetSelection, selectLoop } from '@marionette/core/artwork/selection'
export { areaOf } from '@marionette/core/maths/geometry/booleans'
