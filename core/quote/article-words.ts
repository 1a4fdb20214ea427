export const articleKinds = [
  'device',
  'plate',
  'connector',
  'lamp',
  'box',
  'hub',
  'smartLamp',
  'guard',
  'remote',
  'lampHolder',
  'plugIn',
  'blank',
  'sundry',
  'kit',
] as const
export type ArticleKind = (typeof articleKinds)[number]
export const articleWords: Record<ArticleKind, string> = {
  device: 'device',
  plate: 'plate',
  connector: 'connector',
  lamp: 'lamp',
  box: 'box',
  hub: 'hub',
  smartLamp: 'smart lamp',
  guard: 'guard over a switch',
  remote: 'battery remote',
  lampHolder: 'lamp-holder module',
  plugIn: 'plug-in module',
  blank: 'blank insert',
  sundry: 'sundry',
  kit: 'kit',
}
/** Maker and name, as one says it. */
export const articleName = ({ maker, name }: { maker: string; name: string }): string => [maker, name].filter(Boolean).join(' ')
/** What is in a kit, in words. */
export const contentsWords = (
  { contents }: { contents: readonly { articleId: string; quantity: number }[] },
  articles: readonly { id: string; name: string }[],
): string =>
  contents.map(({ articleId, quantity }) => `${quantity} × ${articles.find(({ id }) => id === articleId)?.name ?? '?'}`).join(', ')
export const lampColours = ['warm', 'neutral', 'cool', 'changing'] as const
