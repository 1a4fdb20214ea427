import { inRegion, numberIn } from '../../core/units/region'
import type { SchemeId } from '../../core/units/scheme'
import { inTrade } from '../../core/units/trade-words'
import type { Region } from '~/utils/time'

/** Where what a page is about is: under another supply, or in another branch, than the one works in who looks. */
export interface Place {
  schemeId: SchemeId
  region: Region
}
const placeKey: InjectionKey<() => Place> = Symbol('place')
function tradeAt(at: () => Place) {
  const place = computed(at)
  return {
    place,
    t: <T>(said: T): T => inRegion(inTrade(said, place.value.schemeId), place.value.region.locale),
    number: (value: number, decimals?: number) => numberIn(value, place.value.region.locale, decimals),
  }
}
/** Says where what this page is about is, to all that stands in it. @returns what `useTrade` returns there */
export function providePlace(place: () => Place) {
  provide(placeKey, place)
  return tradeAt(place)
}

/**
 * The words of the trade, and the way numbers are written, of the home this page is about, or else of the branch one works in.
 * @returns `t` puts them into whatever the core says, and into a screen's own sentences: `t('Open {a breaker}')`
 */
export function useTrade() {
  const session = useSession()
  const here = inject(placeKey, null)
  return tradeAt(() => here?.() ?? { schemeId: session.branch?.schemeId ?? 'na120', region: session.region })
}
