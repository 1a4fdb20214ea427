<script setup lang="ts">
/** A setup code as the square that an app scans, and as it is typed. */
const props = withDefaults(defineProps<{ square: string | null; typed: string; label?: string }>(), {
  label: 'Square code for the household’s app',
})
const place = useTemplateRef<HTMLElement>('place')
const sidePx = 220
watch(
  [place, () => props.square],
  async ([at, code]) => {
    if (!at || !code) return
    const { BrowserQRCodeSvgWriter } = await import('@zxing/browser')
    at.replaceChildren(new BrowserQRCodeSvgWriter().write(code, sidePx, sidePx))
  },
  { immediate: true },
)
</script>

<template>
  <div class="stack">
    <div v-if="square" ref="place" class="square" role="img" :aria-label="label" />
    <p class="mono code">{{ typed }}</p>
  </div>
</template>

<style scoped>
.square {
  width: max-content;
  padding: 8px;
  background: #fff;
}
.code {
  font-size: 20px;
  overflow-wrap: anywhere;
}
</style>
