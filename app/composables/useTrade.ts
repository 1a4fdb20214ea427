import { inRegion, numberIn } from '../../core/units/region'
import type { SchemeId } from '../../core/units/scheme'
import { inTrade } from '../../core/units/trade-words'
import type { Region } from '~/utils/time'

/** Where what a page is about is: under another supply, or in another branch, than the one works in who looks. */
export interface Place {
  schemeId: SchemeId
  region: Region
}
const placeKey: InjectionKey<MaybeRefOrGetter<Place>> = Symbol('place')
export const providePlace = (place: MaybeRefOrGetter<Place>) => provide(placeKey, place)

/**
 * The words of the trade, and the way numbers are written, of the home this page is about, or else of the branch one works in.
 * @returns `t` puts them into whatever the core says, and into a screen's own sentences: `t('Open {a breaker}')`
 */
export function useTrade() {
  const session = useSession()
  const here = inject(placeKey, null)
  const place = computed<Place>(() => toValue(here) ?? { schemeId: session.branch?.schemeId ?? 'na120', region: session.region })
  return {
    place,
    t: <T>(said: T): T => inRegion(inTrade(said, place.value.schemeId), place.value.region.locale),
    number: (value: number, decimals?: number) => numberIn(value, place.value.region.locale, decimals),
  }
}
