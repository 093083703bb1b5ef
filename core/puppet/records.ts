/** What a puppet holds besides its head: records and lists of all capabilities, one line each. */
import { z } from 'zod'
import { Flipbook } from '../alternates/records'
import { Drawing, Picture, Swatch } from '../artwork/records'
import { Bone } from '../bones/records'
import { Constraint, Target } from '../constraints/records'
import { Control } from '../controls/records'
import { CagePreset } from '../deformers/records'
import { Joint } from '../joints/records'
import { BoneId, DrawingId, JointId, PartId, PictureId, TargetId } from '../kernel/ids'
import { Clip } from '../clips/records'
import { Cue, SavedPose } from '../poses/records'
import { Collider, SpringGroup } from '../springs/records'
import { Idle } from '../idle/records'
import { Stride } from '../strides/records'
import { Response } from '../responses/records'
import { View } from '../views/records'
import { Part } from './part'

/** Every kind of record. Deleting, copying, mirroring and checking loop over this table. */
export const RECORDS = {
  views: z.array(View).min(1),
  palette: z.array(Swatch).max(200),
  drawings: z.record(DrawingId, Drawing),
  pictures: z.record(PictureId, Picture),
  parts: z.record(PartId, Part),
  joints: z.record(JointId, Joint),
  bones: z.record(BoneId, Bone),
  targets: z.record(TargetId, Target),
  /** In order: where none needs the result of another, earlier ones act first. */
  constraints: z.array(Constraint).max(500),
  /** Forms of cages that were saved to be used again. */
  presets: z.array(CagePreset).max(200),
  /** In the order in which they are listed. */
  controls: z.array(Control).max(500),
  responses: z.array(Response).max(2000),
  /** Poses that were kept to be used again. */
  poses: z.array(SavedPose).max(500),
  flipbooks: z.array(Flipbook).max(500),
  cues: z.array(Cue).max(500),
  clips: z.array(Clip).max(500),
  springs: z.array(SpringGroup).max(500),
  colliders: z.array(Collider).max(200),
  strides: z.array(Stride).max(20),
  idles: z.array(Idle).max(20),
}
