/** Gives a text to the person as a file. */
export const saveText = (name: string, type: string, text: string): void => saveBlob(name, new Blob([text], { type }))
export function saveBlob(name: string, blob: Blob): void {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(blob)
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 1000)
}

const kept = [
  'fill',
  'stroke',
  'stroke-width',
  'stroke-dasharray',
  'stroke-linecap',
  'opacity',
  'font-size',
  'font-weight',
  'font-family',
  'text-anchor',
]
/** A drawing of the page as a file of its own: what the style sheets say is written into it. */
export function standaloneSvg(drawing: SVGSVGElement): string {
  const copy = drawing.cloneNode(true) as SVGSVGElement
  const originals = drawing.querySelectorAll<SVGElement>('*')
  copy.querySelectorAll<SVGElement>('*').forEach((element, index) => {
    const style = getComputedStyle(originals[index]!)
    for (const name of kept) element.style.setProperty(name, style.getPropertyValue(name))
    for (const { name } of [...element.attributes]) if (/^(data-|class$|tabindex$|role$|aria-)/.test(name)) element.removeAttribute(name)
  })
  copy.style.background = getComputedStyle(document.body).backgroundColor
  return new XMLSerializer().serializeToString(copy)
}
