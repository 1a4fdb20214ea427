import type { DeviceModel } from './device-schema'
import { gestureEffectWords, gestureWords } from './words'

/** What hands do at a model, as one says it to somebody: “press the top: on”. */
export const gesturesSaid = ({ gestures }: Pick<DeviceModel, 'gestures'>): string[] =>
  gestures.map(({ gesture, does }) => `${gestureWords[gesture]}: ${gestureEffectWords[does]}`)

/** Two models that hands cannot tell apart. */
export const sameHands = (one: Pick<DeviceModel, 'gestures'>, other: Pick<DeviceModel, 'gestures'>): boolean =>
  gesturesSaid(one).sort().join() === gesturesSaid(other).sort().join()
