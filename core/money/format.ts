const made = new Map<string, Intl.NumberFormat>()
/** A formatter costs more to make than to use. */
export function formatOfMoney(locale: string, currency: string): Intl.NumberFormat {
  const key = `${locale} ${currency}`
  const known = made.get(key) ?? new Intl.NumberFormat(locale, { style: 'currency', currency })
  made.set(key, known)
  return known
}
