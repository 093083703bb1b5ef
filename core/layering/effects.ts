/** Questions about effects. */
import type { EffectInput, EffectStep } from './records'

/** What a step works on, in order. */
export function inputsOf(step: EffectStep): readonly EffectInput[] {
  switch (step.step) {
    case 'flood':
      return []
    case 'merge':
      return step.of
    case 'composite':
    case 'blend':
      return [step.of, step.with]
    default:
      return [step.of]
  }
}
