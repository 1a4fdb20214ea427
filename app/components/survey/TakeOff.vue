<script setup lang="ts">
/** What comes off the record, and why. The reason stays in its field where it was refused. */
const props = defineProps<{
  /** What the field asks, as it is spoken. */
  asks: string
  placeholder: string
  busy: boolean
  act: (reason: string) => Promise<boolean>
}>()
const { offline } = injectJobRecord()
const reason = ref('')
async function takeOff() {
  if (await props.act(reason.value.trim())) reason.value = ''
}
</script>

<template>
  <form class="row wrap" @submit.prevent="takeOff">
    <UInput v-model="reason" class="grow" :aria-label="asks" :placeholder="placeholder" maxlength="200" />
    <UButton type="submit" color="error" :disabled="offline || reason.trim().length < 3" :loading="busy"
      ><slot>Not there: take it off</slot></UButton
    >
  </form>
</template>
