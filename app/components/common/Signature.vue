<script setup lang="ts">
import SignaturePad from 'signature_pad'
import { isSignature } from '../../../core/site'

/** The customer signs on the glass. Strokes leave it as points in the unit square, not as a picture. */
const emit = defineEmits<{ change: [strokes: [number, number][][]] }>()
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
let pad: SignaturePad | null = null
/** There is something on the glass, and it is less than a signature. */
const dot = ref(false)

function strokes(): [number, number][][] {
  const { width, height } = canvas.value!.getBoundingClientRect()
  const clamp = (value: number) => Math.min(1, Math.max(0, Math.round(value * 10_000) / 10_000))
  return pad!.toData().map((group) => group.points.map((point): [number, number] => [clamp(point.x / width), clamp(point.y / height)]))
}
function fit() {
  const ratio = window.devicePixelRatio || 1
  const { width, height } = canvas.value!.getBoundingClientRect()
  canvas.value!.width = width * ratio
  canvas.value!.height = height * ratio
  canvas.value!.getContext('2d')!.scale(ratio, ratio)
  const data = pad?.toData()
  pad?.clear()
  if (data?.length) pad!.fromData(data)
}
onMounted(() => {
  pad = new SignaturePad(canvas.value!, { penColor: '#1d2421', backgroundColor: '#fffdf8', minWidth: 1.2, maxWidth: 2.6 })
  pad.addEventListener('endStroke', () => {
    const drawn = strokes()
    dot.value = !isSignature(drawn)
    emit('change', dot.value ? [] : drawn)
  })
  fit()
})
useEventListener('resize', fit)
onBeforeUnmount(() => pad?.off())
function clear() {
  pad?.clear()
  dot.value = false
  emit('change', [])
}
</script>

<template>
  <div>
    <canvas ref="canvas" class="glass" aria-label="Sign here" role="img" data-testid="signature" /><UButton
      variant="link"
      class="p-0"
      @click="clear"
      >clear</UButton
    ><span v-if="dot" class="small warn ms-3" role="status">That is not a signature: sign with the whole name.</span>
  </div>
</template>

<style scoped>
.glass {
  width: 100%;
  height: 170px;
  border: 1.5px solid var(--ink);
  border-radius: 4px;
  background: #fffdf8;
  touch-action: none;
  display: block;
}
</style>
