/** Records that a puppet has, as a start for arguments that are records themselves. */
import type { z } from 'zod'
import { CagePreset, Deformer } from '../../deformers/records'
import { Change, Response, Stop } from '../../responses/records'
import { Constraint, Target } from '../../constraints/records'
import { Clip, ClipLayer, HungPose, Marker, Track } from '../../clips/records'
import { Control } from '../../controls/records'
import { Cue, SavedPose } from '../../poses/records'
import { Drawing, Path, Picture, PictureMesh, Shape, Swatch } from '../../artwork/records'
import { Flipbook, Swap } from '../../alternates/records'
import { Part, Puppet } from '../../puppet/schema'
import { Bind, WeightField } from '../../binds/records'
import { Bone } from '../../bones/records'
import { View } from '../../views/records'
import { Joint } from '../../joints/records'

const shapes = (p: Puppet): Shape[] => Object.values(p.drawings).flatMap((d) => d.shapes)
const binds = (p: Puppet): Bind[] => Object.values(p.parts).flatMap((part) => part.bind ?? [])
const stops = (p: Puppet): Stop[] => p.responses.flatMap((r) => r.stops)

/** Kinds of records by their schemas, with those that a puppet has. */
const SAMPLES = new Map<z.ZodType, (puppet: Puppet) => readonly unknown[]>([
  [Part, (p) => Object.values(p.parts)],
  [Bone, (p) => Object.values(p.bones)],
  [Drawing, (p) => Object.values(p.drawings)],
  [Picture, (p) => Object.values(p.pictures)],
  [PictureMesh, (p) => Object.values(p.pictures).map((one) => one.mesh)],
  [Shape, shapes],
  [Path, (p) => shapes(p).flatMap((s) => s.paths)],
  [Bind, binds],
  [WeightField, (p) => binds(p).flatMap((b) => (b.kind === 'blended' ? [b.field] : []))],
  [Deformer, (p) => Object.values(p.parts).flatMap((part) => part.deformers)],
  [Joint, (p) => Object.values(p.joints)],
  [Target, (p) => Object.values(p.targets)],
  [Constraint, (p) => p.constraints],
  [Control, (p) => p.controls],
  [Response, (p) => p.responses],
  [Stop, stops],
  [Change, (p) => stops(p).flatMap((s) => s.changes)],
  [SavedPose, (p) => p.poses],
  [Flipbook, (p) => p.flipbooks],
  [Cue, (p) => p.cues],
  [Clip, (p) => p.clips],
  [ClipLayer, (p) => p.clips.flatMap((c) => c.layers)],
  [Track, (p) => p.clips.flatMap((c) => c.layers.flatMap((l) => Object.values(l.tracks)))],
  [HungPose, (p) => p.clips.flatMap((c) => c.poses)],
  [Marker, (p) => p.clips.flatMap((c) => c.markers)],
  [Swap, (p) => Object.values(p.parts).flatMap((part) => part.swap ?? [])],
  [Swatch, (p) => p.palette],
  [View, (p) => p.views],
  [CagePreset, (p) => p.presets],
  [Puppet, (p) => [p]],
])

/** What a puppet has of the kind that a schema describes; undefined where that is no kind of record. */
export const samplesOf = (schema: z.ZodType, puppet: Puppet): readonly unknown[] | undefined => SAMPLES.get(schema)?.(puppet)
