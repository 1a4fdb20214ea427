<script setup lang="ts">
/** Reads the number under the bars: from a scanner that types, by hand, or with the camera. */
const emit = defineEmits<{ read: [text: string] }>()
defineProps<{ label?: string; placeholder?: string }>()
const typed = ref('')
function enter() {
  const text = typed.value.trim()
  typed.value = ''
  if (text) emit('read', text)
}
const looking = ref(false)
const problem = ref('')
const video = useTemplateRef<HTMLVideoElement>('video')
let stop: (() => void) | null = null
function close() {
  stop?.()
  stop = null
  looking.value = false
}
async function look() {
  problem.value = ''
  looking.value = true
  try {
    // A large part, loaded only when somebody wants the camera.
    const { BrowserMultiFormatReader } = await import('@zxing/browser')
    await nextTick()
    if (!video.value) return
    const controls = await new BrowserMultiFormatReader().decodeFromVideoDevice(undefined, video.value, (result) => {
      if (!result) return
      emit('read', result.getText())
      close()
    })
    stop = () => controls.stop()
    if (!looking.value) close()
  } catch {
    close()
    problem.value = 'The camera cannot be used here. Type the number under the bars.'
  }
}
onBeforeUnmount(close)
</script>

<template>
  <div class="stack">
    <form class="row" @submit.prevent="enter">
      <UInput
        v-model="typed"
        :aria-label="label ?? 'Scan or type the number under the bars'"
        :placeholder="placeholder ?? 'scan, or type the number under the bars'"
        class="grow"
        autocomplete="off"
      />
      <UButton type="submit" :disabled="!typed.trim()">Check</UButton>
      <UButton
        icon="i-lucide-camera"
        :aria-label="looking ? 'Close the camera' : 'Scan with the camera'"
        @click="looking ? close() : look()"
      />
    </form>
    <video v-if="looking" ref="video" class="video" muted playsinline aria-label="What the camera sees" />
    <p v-if="problem" class="note amber small" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
.video {
  width: 100%;
  max-height: 220px;
  object-fit: cover;
  border: 1.5px solid var(--ink);
}
</style>
