import type { Ref } from 'vue'

/** So far a finger or the mouse moves before a tap is a drag, px. */
const slack = 6

/**
 * A tag is taken and let go over what it is laid on. What it is over is read from the drawing (`data-target`).
 * @param dropped the letter, and the target it was let go over
 */
export function useConductorDrag(
  drawing: Ref<SVGSVGElement | null>,
  mayDrag: () => boolean,
  dropped: (letter: string, target: string) => void,
) {
  const dragged = ref<{ letter: string; x: number; y: number } | null>(null)
  let taken: { letter: string; pointerId: number; x: number; y: number } | null = null

  function at(event: PointerEvent) {
    const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(drawing.value!.getScreenCTM()!.inverse())
    return { x, y }
  }
  function targetAt(event: PointerEvent, letter: string): string | null {
    const found = document
      .elementsFromPoint(event.clientX, event.clientY)
      .flatMap((element) => element.closest<SVGElement>('[data-target]') ?? [])
    return found.map((element) => element.dataset.target!).find((target) => target !== `letter ${letter}`) ?? null
  }
  const letGo = () => {
    taken = null
    dragged.value = null
  }

  function down(event: PointerEvent) {
    const letter = (event.target as Element).closest<SVGElement>('[data-letter]')?.dataset.letter
    if (!letter || !mayDrag() || !event.isPrimary || event.button !== 0) return
    taken = { letter, pointerId: event.pointerId, x: event.clientX, y: event.clientY }
  }
  function move(event: PointerEvent) {
    if (!taken || event.pointerId !== taken.pointerId) return
    // Let go outside the window: nobody said so.
    if (event.pointerType === 'mouse' && event.buttons === 0) return letGo()
    if (!dragged.value && Math.hypot(event.clientX - taken.x, event.clientY - taken.y) < slack) return
    dragged.value = { letter: taken.letter, ...at(event) }
  }
  function up(event: PointerEvent) {
    if (!taken || event.pointerId !== taken.pointerId) return
    const { letter } = taken
    const target = dragged.value && mayDrag() ? targetAt(event, letter) : null
    if (dragged.value) swallowClick()
    letGo()
    if (target) dropped(letter, target)
  }
  /** The click that follows a drag picks nothing. */
  function swallowClick() {
    const swallow = (click: Event) => click.stopPropagation()
    window.addEventListener('click', swallow, { capture: true, once: true })
    setTimeout(() => window.removeEventListener('click', swallow, { capture: true }), 0)
  }
  useEventListener(drawing, 'pointerdown', down)
  // A finger on a tag takes the conductor; the page under it does not scroll. `touch-action` is not heeded inside a drawing.
  useEventListener(drawing, 'touchmove', (event: TouchEvent) => taken && event.cancelable && event.preventDefault(), { passive: false })
  useEventListener(window, 'pointermove', move)
  useEventListener(window, 'pointerup', up)
  useEventListener(window, 'pointercancel', letGo)
  return dragged
}
